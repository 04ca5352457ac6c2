import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { createPullPlayer } from '../../core/compare/pull-players'
import { meanBand } from '../../core/compare/pull-sums'
import type { BanditDocument } from '../../core/compare/pull-task'
import { triedChoices } from '../../core/compare/variables'
import { readEnvironment } from '../../core/environment/read'
import { gridDocument } from '../../core/testing/models'
import { settingsOf } from '../../core/settings/choice'
import { PullsHost } from '../../hosts/pulls-host'
import { inProcess } from '../../hosts/testing/in-process'
import { agentNames, createAgentsSession, taskKey, type AgentsSession } from './agents-session'
import type { KeptAgents, KeptRuns } from './kept-run'
import { firstChoice } from '../../core/settings/first-choice'

const NOWHERE: KeptRuns = { read: async () => undefined, write: async () => {}, forget: async () => {} }
const POSTER = readEnvironment(readFileSync('demo/which-poster.json', 'utf8'), '') as BanditDocument
const LOANS = readEnvironment(readFileSync('demo/loans-of-the-season.json', 'utf8'), '') as BanditDocument

function opened(document: BanditDocument, cores = 2, kept: KeptRuns = NOWHERE): AgentsSession {
  const session = createAgentsSession('e', kept, () => cores, inProcess(PullsHost.create))
  session.open(document, firstChoice(document))
  session.set({ runs: 250, pulls: 1000 })
  return session
}

async function finished(session: AgentsSession): Promise<void> {
  while (session.store.getState().running) await new Promise((resolve) => setTimeout(resolve))
}

describe('runs of many agents', () => {
  it('are the same bits on any number of cores, and those of a player alone', async () => {
    const results = await Promise.all(
      [1, 3].map(async (cores) => {
        const session = opened(LOANS, cores)
        session.start(LOANS)
        await finished(session)
        return session.store.getState()
      }),
    )
    const [one, three] = results.map(({ agents, results: all, runs, pulls }) =>
      agents.map(({ choice }) => all[taskKey(LOANS, choice, runs, pulls)]),
    )
    expect(three).toEqual(one)
    const { choice } = results[0].agents[3]
    const player = createPullPlayer({
      document: LOANS,
      method: choice.method,
      settings: settingsOf(choice, () => null),
      pulls: 1000,
    })
    for (let run = 0; run < 250; run++) player.play(run)
    const alone = player.take()
    expect(one[3].runs).toBe(250)
    expect(meanBand(one[3], one[3].score).mean[0]).toBeCloseTo(meanBand(alone, alone.score).mean[0], 12)
  })

  it('are not played again for what is there, and are for what changed', async () => {
    const session = opened(POSTER)
    session.set({ runs: 20, pulls: 100 })
    session.start(POSTER)
    await finished(session)
    session.start(POSTER)
    expect(session.store.getState()).toMatchObject({ running: false, asked: 0 })
    // The agent on the board, and the same one again.
    session.add(firstChoice(POSTER))
    session.add(firstChoice(POSTER))
    expect(agentNames(session.store.getState().agents).at(-1)).toMatch(/\(2\)$/)
    session.start(POSTER)
    expect(session.store.getState().asked).toBe(20)
    await finished(session)
    // Other arms are another question.
    const turned = { ...POSTER, bandit: { ...POSTER.bandit, arms: POSTER.bandit.arms.slice(1) } }
    session.start(turned)
    expect(session.store.getState().asked).toBe(7 * 20)
    session.stop()
    expect(session.store.getState().running).toBe(false)
  })

  it('leave out hidden agents, and study a setting at each of its values', async () => {
    const session = opened(POSTER)
    session.set({ runs: 10, pulls: 50, picture: 'study', range: { from: 0.5, to: 2 } })
    const [greedy, , , ucb] = session.store.getState().agents
    for (const { id } of session.store.getState().agents) session.hide(id, id !== greedy.id && id !== ucb.id)
    // ε of 2 there is not.
    expect(
      triedChoices(greedy.choice, greedy.varied, { from: 0.5, to: 2 }).map(({ value }) => value),
    ).toEqual([0.5, 1])
    session.start(POSTER)
    expect(session.store.getState().asked).toBe(5 * 10)
    await finished(session)
    session.change(ucb.id, { varied: 'start' })
    session.start(POSTER)
    expect(session.store.getState().asked).toBe(3 * 10)
    session.stop()
  })

  it('say what went wrong', async () => {
    const session = opened(POSTER)
    session.add({ ...firstChoice(POSTER), seed: -1 })
    session.set({ runs: 2, pulls: 10 })
    session.start(POSTER)
    await finished(session)
    expect(session.store.getState().failure).toContain('seed -1 is not a whole number')
  })

  it('come back with their list after a reload', async () => {
    let record: KeptAgents | undefined
    const kept: KeptRuns = {
      read: async (what) => (what === 'agents' ? record : undefined) as never,
      write: async (what, _environment, written) => {
        if (what === 'agents') record = written as KeptAgents
      },
      forget: async () => {},
    }
    const session = opened(POSTER, 2, kept)
    session.set({ runs: 5, pulls: 20 })
    session.remove(0)
    session.start(POSTER)
    await finished(session)
    const again = createAgentsSession('e', kept, () => 2, inProcess(PullsHost.create))
    again.open(POSTER, firstChoice(POSTER))
    await new Promise((resolve) => setTimeout(resolve))
    const { agents, results, runs, pulls } = session.store.getState()
    expect(again.store.getState()).toMatchObject({ agents, results, runs, pulls })
    session.reset(POSTER, firstChoice(POSTER))
    expect(session.store.getState().agents).toHaveLength(6)
  })

  it('are there for bandits only', () => {
    const grid = gridDocument(['..'])
    const session = createAgentsSession('e', NOWHERE, () => 1, inProcess(PullsHost.create))
    session.open(grid, firstChoice(grid))
    session.start(grid)
    expect(session.store.getState()).toMatchObject({ agents: [], running: false })
  })
})
