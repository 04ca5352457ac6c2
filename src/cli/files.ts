import { endingOf } from '../core/environment/ending'
import { closeSync, fstatSync, openSync, readFileSync, readSync, writeFileSync } from 'node:fs'
import { basename, extname } from 'node:path'
import { compileEnvironment } from '../core/environment/compile'
import { readEnvironment } from '../core/environment/read'
import type { Compiled, EnvironmentDocument } from '../core/kinds/kinds'
import { turnKnob } from '../core/environment/knobs'
import { parseJson } from '../core/formats/json'
import { decodeText } from '../core/formats/text'
import type { Model } from '../core/model/model'
import { describeProblem, ProblemError, refuse } from '../core/problem'

/** @throws ProblemError for a file that cannot be read, naming it in every problem */
export function readTextFile(path: string): string {
  return inFile(path, () => decodeText(readBytes(path)))
}

/**
 * An environment from a document (.json), a rulebook (.rules), a transition list (.csv) or the map of a grid (.txt),
 * compiled.
 * @param start  the state to start in, in place of the starts of the file
 * @param knobs  knobs to turn: `name=value`
 */
export function openEnvironment(
  path: string,
  { start, knobs = [] }: { start?: string; knobs?: readonly string[] } = {},
): { document: EnvironmentDocument; model: Model; compiled: Compiled } {
  const text = readTextFile(path)
  const turned = knobs.map(readKnob)
  return inFile(path, () => {
    const read = environmentIn(text, path)
    const document = turned.reduce((each, [knob, value]) => turnKnob(each, knob, value), read)
    const compiled = compileEnvironment(document)
    const model = start === undefined ? compiled.model : startAt(compiled.model, start)
    return { document, model, compiled }
  })
}

/** An environment in any of its forms. @param path  where its text comes from, which names what has no name of its own */
export function environmentIn(text: string, path: string): EnvironmentDocument {
  const name = path === '-' ? 'standard input' : basename(path, extname(path))
  return readEnvironment(text, name, endingOf(path))
}

function readKnob(text: string): [string, number] {
  const at = text.indexOf('=')
  const value = at < 0 || !text.slice(at + 1).trim() ? NaN : Number(text.slice(at + 1))
  if (!Number.isFinite(value)) refuse('--knob', `It is "${text}".`, 'Write --knob seats=14.')
  return [text.slice(0, at).trim(), value]
}

/** @throws ProblemError for text that is not JSON */
export function readJsonFile(path: string): unknown {
  const text = readTextFile(path)
  return inFile(path, () => parseJson(text, 'text'))
}

/** @throws ProblemError for a file that cannot be written */
export function writeFile(path: string, data: string | Uint8Array): void {
  try {
    writeFileSync(path, data)
  } catch {
    refuse(
      basename(path),
      'It cannot be written.',
      'Check that the folder is there and that you may write in it.',
    )
  }
}

/** Runs something on a file's contents; its problems are told with the file's name in front. */
export function inFile<T>(path: string, run: () => T): T {
  try {
    return run()
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    throw new ProblemError(
      error.problems.map((problem) => ({
        ...problem,
        place: `${path === '-' ? 'standard input' : basename(path)}, ${problem.place}`,
      })),
    )
  }
}

function startAt(model: Model, start: string): Model {
  const state = model.labels.indexOf(start)
  if (state < 0) refuse('--start', `There is no state "${start}".`, 'Name a state of the file.')
  if (model.ending[state]) refuse('--start', `"${start}" is an ending.`, 'Start in a state with an action.')
  return { ...model, startState: Int32Array.of(state), startProbability: Float64Array.of(1) }
}

/** What a file holds, or what comes in by a pipe or, for `-`, on standard input. @throws ProblemError when it cannot be read */
export function readBytes(path: string): Uint8Array {
  let file: number
  if (path === '-') return readPipe(0)
  try {
    file = openSync(path, 'r')
  } catch {
    return refuse('file', 'It cannot be opened.', 'Check the name and that you may read it.')
  }
  try {
    const { size } = fstatSync(file)
    if (fstatSync(file).isDirectory())
      refuse('file', 'It is a folder.', 'Name a .json, .rules, .csv or .txt file in it.')
    if (!fstatSync(file).isFile()) return readPipe(file)
    // decodeText refuses larger ones; reading one byte more than it takes is enough to see that.
    const bytes = new Uint8Array(Math.min(size, 256 * 1024 * 1024 + 1))
    let read = 0
    while (read < bytes.length) {
      const got = readSync(file, bytes, read, bytes.length - read, read)
      if (got === 0) break
      read += got
    }
    return bytes.subarray(0, read)
  } finally {
    closeSync(file)
  }
}

function readPipe(file: number): Uint8Array {
  try {
    return readFileSync(file)
  } catch {
    return refuse('standard input', 'Nothing can be read there.', 'Send a file into it, or name one.')
  }
}

/** All problems of an error, a line each. */
export function problemLines(error: ProblemError): string {
  return error.problems.map(describeProblem).join('\n')
}
