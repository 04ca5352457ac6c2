'use client'

import { useStore } from 'zustand'
import type { Agent } from '../../../core/compare/agents'
import { variable, VARIABLE_IDS, VARIABLES, type VariableId } from '../../../core/compare/variables'
import { meanBand, type PullSums } from '../../../core/compare/pull-sums'
import type { BanditDocument } from '../../../core/compare/pull-task'
import { fixedNumber, formatCount, formatNumber } from '../../../core/formats/number'
import {
  agentNames,
  isBandit,
  taskKey,
  wantedChoices,
  type AgentsState,
} from '../../../session/learn/agents-session'
import { LineItem } from '../../charts/LineItem'
import { Button } from '../../parts/Button'
import { DoublingFields } from '../../parts/DoublingFields'
import { NumberField } from '../../parts/NumberField'
import { RunProgress } from '../../parts/RunProgress'
import { LineSelect } from '../../parts/Select'
import { useCovered, useParts, useStudy } from '../../study/study-context'

/** The agents that are compared, and the runs that are asked of them. */
export function AgentsPanel() {
  const { agents, learn, study } = useParts()
  const document = useStudy((state) => state.document)
  const view = useStudy((state) => state.view)
  const state = useStore(agents.store)
  const choice = useStore(learn.store, (learning) => learning.choice)
  const covered = useCovered()
  if (!isBandit(document)) return null
  const { runs, pulls, picture, range, running, done, asked, failure, results } = state
  const missing = wantedChoices(state).some(
    (each) => results[taskKey(document, each, runs, pulls)]?.runs !== runs,
  )
  const names = agentNames(state.agents)
  const start = () => {
    study.getState().setView('agents')
    agents.start(document)
  }
  return (
    <div className="space-y-2">
      <p className="text-[13px] leading-[18px] text-ink-soft">
        Every agent plays the same runs
        {(document.bandit.anew ?? 0) > 0 ? ', each with arms of its own.' : ' of the same arms.'}
      </p>
      <ul aria-label="Agents" className="space-y-1">
        {state.agents.map((agent, i) => (
          <AgentLine
            key={agent.id}
            agent={agent}
            name={names[i]}
            hidden={state.hidden.has(agent.id)}
            study={picture === 'study'}
          />
        ))}
      </ul>
      <div className="flex flex-wrap gap-2">
        <Button
          className="!px-1.5 !py-0.5 text-[13px]"
          title="The method and settings above, as one more agent"
          onClick={() => agents.add(choice)}
        >
          Add the settings above
        </Button>
        <Button
          className="!px-1.5 !py-0.5 text-[13px]"
          title="The list that suits these arms, in place of this one"
          onClick={() => agents.reset(document, choice)}
        >
          Usual agents
        </Button>
      </div>
      <div className="flex items-end gap-2">
        <div className="w-20">
          <NumberField
            label="Runs each"
            whole
            value={runs}
            min={1}
            max={10_000}
            onChange={(value) => agents.set({ runs: value })}
          />
        </div>
        <div className="w-24">
          <NumberField
            label="Pulls a run"
            whole
            value={pulls}
            min={10}
            max={100_000}
            onChange={(value) => agents.set({ pulls: value })}
          />
        </div>
        {running ? (
          <Button onClick={agents.stop}>Stop</Button>
        ) : (
          <Button
            look={missing ? 'ink' : 'plain'}
            disabled={!missing && view === 'agents'}
            why="all of these runs are done"
            onClick={start}
          >
            {missing || view === 'agents' ? 'Run' : 'Show'}
          </Button>
        )}
      </div>
      {picture === 'study' && (
        <div className="grid grid-cols-3 items-end gap-x-3">
          <DoublingFields range={range} onChange={(next) => agents.set({ range: next })} />
        </div>
      )}
      {running && <RunProgress done={done} asked={asked} />}
      {failure && (
        <p role="alert" className="text-alert">
          {failure} Run them again.
        </p>
      )}
      {picture === 'curves' && <Scores state={state} document={document} names={names} covered={covered} />}
    </div>
  )
}

/** An agent of the list: how it is drawn, what it is, and what can be done with it. */
function AgentLine({
  agent,
  name,
  hidden,
  study,
}: {
  agent: Agent
  name: string
  hidden: boolean
  study: boolean
}) {
  const { agents, learn } = useParts()
  const { id, choice, varied } = agent
  const can = VARIABLE_IDS.filter((each) => variable(each).has(choice))
  return (
    <LineItem
      look={id}
      name={name}
      hidden={hidden}
      onHide={(next) => agents.hide(id, next)}
      onRemove={() => agents.remove(id)}
      actions={
        <Button
          look="quiet"
          className="!px-1 !py-0 text-[13px]"
          title="Take its settings to the fields above, to watch or to change them"
          aria-label={`Use the settings of ${name}`}
          onClick={() => learn.choose(choice)}
        >
          Use
        </Button>
      }
    >
      {study && (
        <div className="pl-[30px] text-ink-soft">
          <LineSelect
            label="varies"
            labelled
            value={varied}
            options={can.map((each) => [each, VARIABLES[each].name(choice)] as const)}
            onChange={(value) => agents.change(id, { varied: value as VariableId })}
          />
        </div>
      )}
    </LineItem>
  )
}

/** What the runs came to, as a table. */
function Scores({
  state,
  document,
  names,
  covered,
}: {
  state: AgentsState
  document: BanditDocument
  names: readonly string[]
  covered: boolean
}) {
  const { agents, hidden, results, runs, pulls } = state
  const rows = agents.flatMap(({ id, choice }, i) => {
    const sums = results[taskKey(document, choice, runs, pulls)]
    return hidden.has(id) || !sums?.runs ? [] : [{ id, name: names[i], sums }]
  })
  if (!rows.length) return null
  const most = Math.max(...rows.map(({ sums }) => meanBand(sums, sums.score).mean[0]))
  const diverged = rows.filter(({ sums }) => sums.diverged > 0)
  return (
    <>
      <table className="w-full text-[13px]">
        <caption className="sr-only">Mean over the runs, with half the width of its 95 % interval</caption>
        <thead>
          <tr className="border-b border-rule text-ink-soft">
            <th scope="col" className="text-left font-normal">
              agent
            </th>
            <th
              scope="col"
              className="pl-2 text-right font-normal"
              title="Mean reward of a pull, over the whole run"
            >
              reward
            </th>
            {!covered && (
              <>
                <th
                  scope="col"
                  className="pl-2 text-right font-normal"
                  title="Share of pulls of a best arm, at the end"
                >
                  best
                </th>
                <th scope="col" className="pl-2 text-right font-normal" title="Regret at the end">
                  regret
                </th>
              </>
            )}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ id, name, sums }) => (
            <tr key={id} className={meanBand(sums, sums.score).mean[0] === most ? 'font-semibold' : ''}>
              <th scope="row" className="py-0.5 pr-2 text-left font-normal">
                {name}
              </th>
              <td className="pl-2 text-right whitespace-nowrap">{withError(sums, 'score', 3)}</td>
              {!covered && (
                <>
                  <td className="pl-2 text-right whitespace-nowrap">{share(sums)}</td>
                  <td className="pl-2 text-right whitespace-nowrap">{withError(sums, 'regret', 1)}</td>
                </>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      {diverged.map(({ id, name, sums }) => (
        <p key={id} className="text-[13px] text-alert">
          {formatCount(sums.diverged)} of {formatCount(sums.runs)} runs of {name} diverged and are left out.
        </p>
      ))}
    </>
  )
}

function withError(sums: PullSums, of: 'score' | 'regret', digits: number): string {
  const { mean, error } = meanBand(sums, of === 'score' ? sums.score : sums.measures.regret)
  const [at, half] = [mean.at(-1)!, error.at(-1)!]
  if (Number.isNaN(at)) return '–'
  return `${fixedNumber(at, digits)}${Number.isNaN(half) ? '' : ` ± ${fixedNumber(half, digits)}`}`
}

function share(sums: PullSums): string {
  const at = meanBand(sums, sums.measures.best).mean.at(-1)!
  return Number.isNaN(at) ? '–' : `${formatNumber(100 * at, 0)} %`
}
