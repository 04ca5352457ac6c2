'use client'

import { Checkbox } from '../../parts/Checkbox'
import { PULL_LIMIT, type Bandit, type Drift } from '../../../core/kinds/bandit/document'
import type { BanditEnvironment } from '../../../core/kinds/bandit/kind'
import { NumberField } from '../../parts/NumberField'
import { Section } from '../../parts/Section'
import { Select } from '../../parts/Select'
import { useStudy } from '../../study/study-context'
import { ArmList } from './ArmList'
import { ContextList } from './ContextList'

/** The controls of Build for a bandit: its arms, what the agent sees before a pull, how the pay-offs drift. */
export function BanditPanel({ document }: { document: BanditEnvironment }) {
  const edit = useStudy((state) => state.edit)
  const { bandit } = document
  const change = (part: Partial<Bandit>) => edit({ ...document, bandit: { ...bandit, ...part } })
  return (
    <>
      <Checkbox
        title="The board and every stage keep the pay-offs covered."
        checked={bandit.hidden}
        onChange={(checked) => change({ hidden: checked })}
      >
        Hide the truth from the class
      </Checkbox>
      <ArmList bandit={bandit} onBandit={change} />
      <Pulls bandit={bandit} onBandit={change} />
      <ContextList bandit={bandit} onBandit={change} />
    </>
  )
}

const DRIFTS: Readonly<Record<Drift['type'], { readonly title: string; readonly plain: Drift }>> = {
  none: { title: 'stay as they are', plain: { type: 'none' } },
  walk: { title: 'drift (random walk)', plain: { type: 'walk', step: 0.1, seed: 1 } },
  switch: { title: 'swap pay-offs in turn', plain: { type: 'switch', every: 50 } },
}

function Pulls({ bandit, onBandit }: { bandit: Bandit; onBandit(part: Partial<Bandit>): void }) {
  const { drift, pulls } = bandit
  return (
    <Section title="Pulls">
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Pulls in an episode"
          whole
          value={pulls}
          min={1}
          max={PULL_LIMIT}
          hint="With one pull the value of an arm is its mean."
          onChange={(next) => onBandit({ pulls: next })}
        />
        <Select
          label="The pay-offs"
          value={drift.type}
          options={Object.fromEntries(Object.entries(DRIFTS).map(([type, { title }]) => [type, title]))}
          onChange={(type) =>
            onBandit({
              drift: DRIFTS[type as Drift['type']].plain,
              ...(type !== 'none' && pulls === 1 ? { pulls: 200 } : {}),
            })
          }
        />
        <NumberField
          label="Redrawn for each run (±)"
          value={bandit.anew ?? 0}
          min={0}
          max={1e9}
          hint="Standard deviation with which the mean of every arm is redrawn for each run, around the mean written here. 0: the same arms in every run. Build and Plan show the arms as written, Learn those of its run."
          onChange={(anew) => onBandit({ anew: anew === 0 ? undefined : anew })}
        />
        {drift.type === 'walk' && (
          <>
            <NumberField
              label="Step (deviation per pull)"
              value={drift.step}
              min={0}
              aboveMin
              max={1e9}
              hint="Before every pull the mean of each arm takes a Gaussian step of this deviation."
              onChange={(step) => onBandit({ drift: { ...drift, step } })}
            />
            <NumberField
              label="Seed of the walk"
              whole
              value={drift.seed}
              min={0}
              max={Number.MAX_SAFE_INTEGER}
              hint="The walk is drawn once: it is the same in every episode and for every agent."
              onChange={(seed) => onBandit({ drift: { ...drift, seed } })}
            />
          </>
        )}
        {drift.type === 'switch' && (
          <NumberField
            label="Every (pulls)"
            whole
            value={drift.every}
            min={1}
            max={PULL_LIMIT}
            hint="Each arm then pays what the arm before it paid, the first what the last paid."
            onChange={(every) => onBandit({ drift: { ...drift, every } })}
          />
        )}
      </div>
      {drift.type !== 'none' && (
        <p className="text-[13px] text-ink-soft">
          The agent does not see the number of the pull, and so cannot know what has changed.
        </p>
      )}
    </Section>
  )
}
