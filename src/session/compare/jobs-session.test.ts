import { describe, expect, it } from 'vitest'
import { newComparison } from '../../core/compare/comparison'
import { encodeRuns } from '../../core/compare/runs-text'
import { ProblemError } from '../../core/problem'
import { emptyRun } from '../../core/testing/runs'
import { gridDocument } from '../../core/testing/models'
import type { JobSummary } from '../../server/contract/jobs'
import type { JobServer } from '../api/jobs'
import { createJobsSession } from './jobs-session'

const JOB: JobSummary = {
  id: 'j',
  name: 'Rates',
  environment: { id: 'e', name: 'Hall' },
  state: 'active',
  priority: 0,
  chunks: 3,
  done: 0,
  busy: 1,
  left: null,
  message: null,
  program: 'p',
  createdAt: '',
  finishedAt: null,
}

/** A server with one job, of which a chunk is finished with every question. */
function server(chunks = 3, page = 2): JobServer & { asked: number; jobs: JobSummary[] } {
  const made = {
    asked: 0,
    jobs: [
      JOB,
      { ...JOB, id: 'other', environment: { id: 'elsewhere', name: 'Other' }, state: 'done' as const },
    ],
    list: async () => {
      made.asked++
      const done = Math.min(chunks, made.asked)
      made.jobs = made.jobs.map((job) =>
        job.id === 'j' ? { ...job, done, state: done === chunks ? 'done' : 'active' } : job,
      )
      return { jobs: made.jobs, notice: null }
    },
    submit: async () => 'j',
    change: async () => {
      throw new ProblemError([{ place: 'job', cause: 'It is over.', remedy: 'Look again.' }])
    },
    remove: async (id: string) => void (made.jobs = made.jobs.filter((job) => job.id !== id)),
    results: async (id: string, after: number) => {
      expect(id).toBe('j')
      const last = Math.min(made.jobs[0].done, after + page)
      return {
        chunks: Array.from({ length: last - after }, (_, i) => ({
          key: 'k',
          runs: encodeRuns([emptyRun(after + i)]),
        })),
        last,
        more: last < made.jobs[0].done,
      }
    },
  }
  return made
}

describe('the jobs of the server', () => {
  it('are asked for as long as one is at work, and hand their runs on, each once', async () => {
    const asked = server()
    const rounds: (() => void)[] = []
    const session = createJobsSession('e', asked, (work) => rounds.push(work))
    const taken: number[] = []
    let known = 0
    await session.watch({
      known: () => known,
      take(_, last, chunks) {
        known = last
        taken.push(...chunks.flatMap(({ runs }) => runs.map(({ run }) => run)))
      },
    })
    expect(taken).toEqual([0])
    while (rounds.length) {
      rounds.pop()!()
      await new Promise((resolve) => setTimeout(resolve))
    }
    expect(taken).toEqual([0, 1, 2])
    expect(asked.asked).toBe(3)
    expect(session.store.getState().jobs[0].state).toBe('done')
  })

  it('are not asked for any more once nobody looks', async () => {
    const asked = server(99)
    const rounds: (() => void)[] = []
    const session = createJobsSession('e', asked, (work) => rounds.push(work))
    await session.watch()
    session.stop()
    rounds.pop()!()
    expect(asked.asked).toBe(1)
  })

  it('say what cannot be done', async () => {
    const asked = server()
    const session = createJobsSession('e', asked, () => {})
    await session.submit(newComparison('x'), gridDocument(['..']))
    expect(session.store.getState()).toMatchObject({ problem: null })
    expect(session.store.getState().jobs).toHaveLength(2)
    await session.change('j', { state: 'paused' })
    expect(session.store.getState().problem).toBe('job: It is over. Look again.')
    await session.remove('j')
    expect(session.store.getState().problem).toBeNull()
    expect(session.store.getState().jobs).toHaveLength(1)
  })
})
