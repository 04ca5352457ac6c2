import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { gridDocument } from '../../core/testing/models'
import { createDocumentWorkers, createDocumentThreads, DIRECT_WORKERS } from './document-workers'

/** In place of the real worker: what a document can do to a thread, by its name. */
const WORKER = `export default ({ input: { name } }) => {
  if (name === 'endless') for (;;);
  if (name === 'huge') for (const all = []; ; ) all.push(new Array(1e5).fill(name + all.length));
  if (name === 'broken') throw new Error('a fault of the program');
  if (name === 'wrong') return { problems: [{ place: 'line 1', cause: 'No.', remedy: 'Mend it.' }] };
  return { output: { text: name } };
}`

let folder: string
let file: string
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'documents-'))
  file = join(folder, 'worker.mjs')
  writeFileSync(file, WORKER)
})
afterAll(() => rmSync(folder, { recursive: true }))

describe('document workers', () => {
  it('gives up on what takes too long or too much, and goes on with the next', async () => {
    const pool = createDocumentThreads(file, 1, { room: 64 })
    const workers = createDocumentWorkers(pool, 700)
    const ask = (name: string) => workers.do('rename', { text: '', name })
    expect(await ask('fine')).toEqual({ text: 'fine' })
    await expect(ask('endless')).rejects.toThrow('document: The server gave up on it after 0.7 s.')
    expect(await ask('next')).toEqual({ text: 'next' })
    const patient = createDocumentWorkers(pool, 30_000)
    await expect(patient.do('rename', { text: '', name: 'huge' })).rejects.toThrow(/more memory/)
    expect(await patient.do('rename', { text: '', name: 'last' })).toEqual({ text: 'last' })
    await pool.destroy()
  })

  it('tells problems of the input from faults of the program', async () => {
    const pool = createDocumentThreads(file, 1)
    const workers = createDocumentWorkers(pool, 30_000)
    await expect(workers.do('rename', { text: '', name: 'wrong' })).rejects.toThrow('line 1: No. Mend it.')
    await expect(workers.do('rename', { text: '', name: 'broken' })).rejects.toThrow('a fault of the program')
    await pool.destroy()
  })
})

describe('what is done with documents', () => {
  const body = (value: unknown) => Buffer.from(typeof value === 'string' ? value : JSON.stringify(value))
  const document = { ...gridDocument(['..']), name: 'Hall' }

  it('refuses what is not asked for', async () => {
    const save = (sent: unknown) => DIRECT_WORKERS.do('save', { body: body(sent) })
    await expect(save('{')).rejects.toThrow('It is not JSON.')
    await expect(save([])).rejects.toThrow(/"revision"/)
    await expect(save({ revision: 0.5, document })).rejects.toThrow(/"revision"/)
    await expect(save({ revision: 1 })).rejects.toThrow(/"document"/)
    await expect(DIRECT_WORKERS.do('save', { body: Buffer.from([255, 0]) })).rejects.toThrow(/not UTF-8/)
    const saved = await save({ revision: 3, document })
    expect(saved).toMatchObject({ revision: 3, document: { kind: 'grid', name: 'Hall' } })
    expect(JSON.parse(saved.document.text)).toEqual(document)
  })

  it('variants that cannot be read, or do not change, stay as they are', async () => {
    const text = (part: object) => JSON.stringify({ ...document, ...part })
    const followed = await DIRECT_WORKERS.do('follow', {
      before: text({}),
      after: text({ discount: 0.5 }),
      variants: [text({ name: 'Follows' }), '{torn', text({ name: 'Its own', discount: 0.7 })],
    })
    expect(followed.map((each) => each?.name ?? null)).toEqual(['Follows', null, null])
    expect(JSON.parse(followed[0]!.text)).toMatchObject({ discount: 0.5 })
  })
})
