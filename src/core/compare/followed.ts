import { drawnPolicy, type DrawnPolicy } from '../evaluate/drawn-policy'
import type { Compiled } from '../kinds/kinds'
import { carryCheckpoint, type Checkpoint } from '../learn/checkpoint'
import { greedyPolicy } from '../plan/backup'
import { SoftmaxTable } from '../learn/methods/policy/softmax-table'
import { World } from '../learn/world'
import type { RowPolicy } from '../model/model'
import { randomPolicy } from '../plan/evaluate'
import { solveOptimum } from '../plan/solve'
import { listNames, refuse } from '../problem'

/** A policy that does not learn, as it is written down in a comparison. */
export type Followed =
  | { readonly kind: 'random' }
  /** One action wherever it is available; elsewhere all actions equally often. */
  | { readonly kind: 'action'; readonly action: string }
  /** A policy of the rulebook, by its title. */
  | { readonly kind: 'written'; readonly title: string }
  | { readonly kind: 'drawn'; readonly drawing: DrawnPolicy }
  /** The policy of a learned table: greedy in its action values, or the softmax of its preferences. */
  | { readonly kind: 'table'; readonly checkpoint: Checkpoint }
  | { readonly kind: 'optimum' }

type FollowedKind = Followed['kind']

interface FollowedEntry<F extends Followed> {
  /** What such a contestant is called. */
  name(followed: F): string
  /** [rows] @throws ProblemError where the environment has no such policy */
  policy(compiled: Compiled, followed: F, discount: number): RowPolicy
}

/** Each kind of policy that can be a contestant. */
const FOLLOWED: { readonly [K in FollowedKind]: FollowedEntry<Extract<Followed, { kind: K }>> } = {
  random: {
    name: () => 'random agent',
    policy: ({ model }) => randomPolicy(model),
  },
  action: {
    name: ({ action }) => `always ${action}`,
    policy: ({ model }, { action }) => {
      const index = model.actions.indexOf(action)
      if (index < 0)
        refuse(
          'contestant',
          `The environment has no action "${action}".`,
          `Choose one of ${listNames(model.actions)}.`,
        )
      const policy = randomPolicy(model)
      for (let s = 0; s < model.states; s++) {
        const [first, end] = [model.rowStart[s], model.rowStart[s + 1]]
        const row = model.rowAction.subarray(first, end).indexOf(index)
        if (row < 0) continue
        policy.fill(0, first, end)
        policy[first + row] = 1
      }
      return policy
    },
  },
  written: {
    name: ({ title }) => title,
    policy: ({ policies }, { title }) =>
      policies.find((each) => each.title === title)?.policy ??
      refuse(
        'contestant',
        `The rulebook has no policy "${title}".`,
        policies.length
          ? `It has ${listNames(policies.map((each) => each.title))}.`
          : 'Write one: policy "its name": action.',
      ),
  },
  drawn: {
    name: () => 'drawn policy',
    policy: ({ model }, { drawing }) =>
      drawnPolicy(model, drawing) ?? refuse('contestant', 'Nothing is drawn.', 'Draw a policy in Plan.'),
  },
  table: {
    name: ({ checkpoint }) => `table ${checkpoint.name}`,
    policy: ({ model }, { checkpoint }) => tablePolicy(new World(model), checkpoint),
  },
  optimum: {
    name: () => 'optimal policy',
    policy: ({ model }, _, discount) =>
      solveOptimum(model, discount)?.policy ??
      refuse(
        'contestant',
        'No finite optimum was found at this discount.',
        'Take a discount below 1, or an environment whose episodes end.',
      ),
  },
}

/** What a contestant that follows a policy is called. */
export function followedName(followed: Followed): string {
  return entryOf(followed).name(followed)
}

/** The policy of such a contestant. [rows] @throws ProblemError where the environment has no such policy */
export function followedPolicy(compiled: Compiled, followed: Followed, discount: number): RowPolicy {
  return entryOf(followed).policy(compiled, followed, discount)
}

function entryOf<F extends Followed>(followed: F): FollowedEntry<F> {
  return FOLLOWED[followed.kind] as unknown as FollowedEntry<F>
}

/** Cells that the table says nothing of are worth 0, as when learning begins. */
function tablePolicy(world: World, checkpoint: Checkpoint): RowPolicy {
  const { holds } = checkpoint
  if (holds === 'values')
    refuse(
      checkpoint.name,
      'It holds values of states, which say nothing of actions.',
      'Take a table of action values or preferences.',
    )
  const table = carryCheckpoint(checkpoint, world, holds).table.map((value) =>
    Number.isNaN(value) ? 0 : value,
  )
  if (holds === 'action values') return world.toModelRows(greedyPolicy(world.tableStart, table))
  const softmax = new SoftmaxTable(world.tableStart, checkpoint.settings?.temperature ?? 1)
  softmax.preferences.set(table)
  for (let observation = 0; observation < world.model.observations; observation++)
    softmax.refresh(observation)
  return world.toModelRows(softmax.probability)
}
