import { createStore, type StoreApi } from 'zustand'
import { carriedInWords, carryCheckpoint, makeCheckpoint, type Checkpoint } from '../../core/learn/checkpoint'
import { learnMethod } from '../../core/learn/methods/methods'
import { World } from '../../core/learn/world'
import { describeProblem, ProblemError } from '../../core/problem'
import { knobsOf } from '../../core/environment/knobs'
import type { Source } from '../follow'
import type { ModelSession } from '../study/model-session'
import type { StudyState } from '../study/study-store'
import type { LearnSession } from './learn-session'
import type { PolicySource } from '../plan/policy-source'
import { findPolicy } from '../plan/policy-sources'

/** One step of a course: where a knob stands, and for how many episodes it is learned there. */
export interface CourseStep {
  readonly value: number
  readonly episodes: number
}

export interface CourseState {
  /** The knob that makes the environment easier or harder; null before one was chosen. */
  readonly knob: string | null
  readonly steps: readonly CourseStep[]
  /** The step that is being learned, from 0; null when no course goes on. */
  readonly at: number | null
  readonly failure: string | null
  /** What came of each step that is done, in words. */
  readonly done: readonly string[]
}

/** What a course moves: the document, its model, the run. */
interface CourseParts {
  readonly study: StoreApi<StudyState>
  readonly model: ModelSession
  readonly learn: LearnSession
}

/** Several steps from easy to hard, learned one after the other with the table carried over. Knows no React. */
export interface Course {
  readonly store: StoreApi<CourseState>
  set(part: Partial<Pick<CourseState, 'knob' | 'steps'>>): void
  run(parts: CourseParts): Promise<void>
  stop(): void
}

export function createCourse(): Course {
  const store = createStore<CourseState>()(() => ({
    knob: null,
    steps: [],
    at: null,
    failure: null,
    done: [],
  }))
  let ticket = 0
  return {
    store,
    set: (part) => store.setState(part),
    stop() {
      ticket++
      store.setState({ at: null })
    },
    async run(parts) {
      const mine = ++ticket
      const going = () => mine === ticket
      const { knob, steps } = store.getState()
      if (!knob) return
      store.setState({ failure: null, done: [] })
      try {
        let carried: Checkpoint | null = null
        for (const [at, step] of steps.entries()) {
          store.setState({ at })
          if (!(await turnKnob(parts, store, knob, step.value, going))) return
          carried = await learnStep(parts, store, step, carried, going)
          if (!carried) return
          const { frame } = parts.learn.store.getState()
          const worth = frame?.exactValue
          store.setState(({ done }) => ({
            done: [
              ...done,
              `${frame?.episodes ?? 0} episodes${worth == null ? '' : `, the policy is worth ${worth.toFixed(2)} there`}`,
            ],
          }))
        }
      } catch (error) {
        if (!(error instanceof ProblemError)) throw error
        store.setState({ failure: error.problems.map(describeProblem).join(' ') })
      } finally {
        if (going()) store.setState({ at: null })
      }
    },
  }
}

/** Turns the knob and waits for the model to follow. @returns false when the course was given up meanwhile */
async function turnKnob(
  { study, model }: CourseParts,
  course: Source,
  name: string,
  value: number,
  going: () => boolean,
): Promise<boolean> {
  const { document, edit } = study.getState()
  const before = model.store.getState().compiled
  const knob = knobsOf(document, before).find((each) => each.name === name)
  if (!knob)
    throw new ProblemError([
      { place: `knob ${name}`, cause: 'It no longer exists.', remedy: 'Choose another one for the course.' },
    ])
  if (knob.value === value) return going()
  edit(knob.turned(value))
  await until([model.store, course], () => {
    const { compiled, problems } = model.store.getState()
    if (problems.length) throw new ProblemError(problems)
    return compiled !== before || !going()
  })
  return going()
}

/** Learns one step to its end, from the table of the one before. @returns null when the course was given up */
async function learnStep(
  { study, model, learn }: CourseParts,
  course: Source,
  { episodes }: CourseStep,
  carried: Checkpoint | null,
  going: () => boolean,
): Promise<Checkpoint | null> {
  const { compiled } = model.store.getState()
  if (!compiled) return null
  const world = new World(compiled.model)
  learn.open(compiled.model, (source: PolicySource) =>
    findPolicy(source, compiled, study.getState().document, learn),
  )
  learn.choose({ episodes })
  const { choice } = learn.store.getState()
  const { tableHolds, title } = learnMethod(choice.method)
  const given = carried && carryCheckpoint(carried, world, tableHolds)
  learn.restartWith(
    given && {
      title: `what was learned in the course step before: ${carriedInWords(given)}`,
      table: given.table,
    },
  )
  learn.setSpeed('flat out')
  learn.run()
  await until([learn.store, course], () => {
    const { frame, failure } = learn.store.getState()
    if (failure)
      throw new ProblemError([{ place: 'the run', cause: failure, remedy: 'Start the course again.' }])
    return frame?.done === true || !going()
  })
  if (!going()) {
    learn.pause()
    return null
  }
  const { table, steps, episodes: played } = await learn.take()
  return makeCheckpoint(world, table, {
    name: `${title}, a step of a course`,
    environment: study.getState().document.name,
    method: choice.method,
    holds: tableHolds,
    settings: null,
    steps,
    episodes: played,
  })
}

/** Waits until something holds, asked whenever one of the stores changes. */
function until(stores: readonly Source[], holds: () => boolean): Promise<void> {
  return new Promise((resolve, reject) => {
    let stops: readonly (() => void)[] = []
    const finish = (settle: () => void) => {
      for (const stop of stops) stop()
      settle()
    }
    const ask = () => {
      try {
        if (holds()) finish(resolve)
      } catch (error) {
        finish(() => reject(error as Error))
      }
    }
    stops = stores.map((store) => store.subscribe(ask))
    ask()
  })
}
