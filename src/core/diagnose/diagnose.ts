import type { EnvironmentDocument } from '../kinds/kinds'
import { ProblemError } from '../problem'
import type { LearnChoice } from '../settings/choice'
import { DiagnosisContext, POOR } from './context'
import { goalSteps } from '../evaluate/exact-episodes'
import { MARKED, type Change, type Diagnosis, type DiagnosisReport, type Proof, type Tried } from './finding'
import { Problems, type Problem } from './problem'
import { refusalOf } from './refusal'
import type { Suspicion } from './rule'
import { DIAGNOSIS_RULE_IDS } from './rule-ids'
import { diagnosisRule, RUN_RULE_IDS, SUMMARIES, type RunRuleId, type SummaryRuleId } from './rules/rules'
import { watchRun } from './run-evidence'
import { Trials } from './trying'
import { amount, counted, percent } from './words'

/** What is asked. */
export interface DiagnosisAsk {
  readonly document: EnvironmentDocument
  /** Its run is the one that is looked at. */
  readonly choice: LearnChoice
  /** Episodes of it that were played; all when left out. */
  readonly episodes?: number
  /** Runs with other numbers that are looked at too, to tell what is luck. */
  readonly runs: number
}

/** Told after every part of the work. */
export type PartsDone = (done: number, of: number) => void

/** What explains this part of the most that anything explains counts as much; the more particular rule is told first. */
const AS_MUCH = 0.75

/**
 * Why a run does not learn, or that it does: suspicions by rules, each of which names changes that should mend it; those are
 * tried, with the same seeds, and what does not help explains nothing.
 * @throws ProblemError for methods that look for no policy, and models that are too large
 */
export function diagnose(ask: DiagnosisAsk, tell: PartsDone = () => {}): DiagnosisReport {
  const began = performance.now()
  const { document, choice, episodes = choice.episodes, runs } = ask
  const problems = new Problems(document, choice.seed)
  const lookAt = (run: number) => contextOf(problems.of(run), { ...choice, run }, episodes)
  const context = lookAt(choice.run)
  const parts = RUN_RULE_IDS.length + runs
  let done = 0
  const trials = new Trials(problems, choice, episodes, context.evidence.learner.steps)
  const findings: Diagnosis[] = []
  for (const rule of RUN_RULE_IDS) {
    const found = diagnosisRule(rule).suspect(context)
    const told = found && tried(rule, found, context, trials)
    if (told) findings.push(told)
    tell(++done, parts)
  }
  const others = Array.from({ length: runs }, (_, i) => {
    const other = lookAt(choice.run + 1 + i)
    tell(++done, parts)
    return other
  })
  const withSeeds = findings.map((finding) => ({ ...finding, proof: proofOf(finding, others) }))
  return {
    findings: ranked([...withSeeds, ...summaries(context, withSeeds, others)]),
    learned: context.learnedEpisodes.value,
    best: context.bestEpisodes?.value ?? null,
    random: context.randomEpisodes.value,
    healthy: context.optimum !== null && !context.poor,
    runs,
    seconds: (performance.now() - began) / 1000,
  }
}

function contextOf(problem: Problem, choice: LearnChoice, episodes: number): DiagnosisContext {
  const { world } = problem
  const refusal = refusalOf(choice, world.model.states)
  if (refusal) throw new ProblemError([refusal])
  return new DiagnosisContext(problem, choice, watchRun(world, choice, goalSteps(world.model), episodes))
}

/** A suspicion with what came of trying its changes; null where none of them helps, so that it explains nothing. */
function tried(
  rule: RunRuleId,
  found: Suspicion,
  context: DiagnosisContext,
  trials: Trials,
): Diagnosis | null {
  const { title, evidence, proof, states = [], picture = null, changes = [], advice = '' } = found
  const { choice, scale } = context
  const { of = 'policy', discount = choice.discount } = found
  const gain = ({ tried }: Pick<Diagnosis, 'tried'>) => (tried ? tried.after - tried.before : 0)
  const results: { readonly change: Change; readonly tried: Tried | null }[] = []
  for (const change of changes) {
    results.push({ change, tried: trials.try(change, of, discount) })
    // What mends nearly all of it need not be surpassed.
    if (gain(results.at(-1)!) > ALL * Math.max(context.missingOf(of), HELPS * scale)) break
  }
  // Of changes that help as much, the first one.
  const most = Math.max(0, ...results.map(gain))
  const best = results.find((result) => result.tried && gain(result) >= 0.9 * most && most > HELPS * scale)
  // Where there was time for none of them the first one is suggested all the same.
  const untried = results.every((result) => !result.tried) ? results[0] : undefined
  // What is proved is told though the change alone does not help: then more is wrong.
  const told = best ?? untried ?? (found.explains === undefined ? undefined : results[0])
  if (!told && found.explains === undefined) return null
  return {
    rule,
    looksAt: diagnosisRule(rule).looksAt,
    title,
    evidence,
    proof: { kind: proof },
    states: Array.from(states).slice(0, MARKED),
    picture,
    change: told?.change ?? null,
    advice,
    tried: told?.tried ?? null,
    // What keeps everything from being learned is not weighed against the rest.
    explains: best && found.explains !== Infinity ? gain(best) : (found.explains ?? 0),
  }
}
/** The part of what is missing that a change must bring for no other one to be tried. */
const ALL = 0.97
/** The part of the scale by which a change must make something better. */
const HELPS = POOR / 2

/** What was seen in one run, with the number of other runs in which it was seen as well. */
function proofOf({ rule, proof }: Diagnosis, others: readonly DiagnosisContext[]): Proof {
  if (proof.kind !== 'seen' || !others.length) return proof
  const seen = others.filter((context) => diagnosisRule(rule as RunRuleId).suspect(context)).length
  return { kind: 'seeds', seen: seen + 1, of: others.length + 1 }
}

/** What is told of all runs together, and of what is left over. */
function summaries(
  context: DiagnosisContext,
  findings: readonly Diagnosis[],
  others: readonly DiagnosisContext[],
): Diagnosis[] {
  const summary = (
    rule: SummaryRuleId,
    title: string,
    evidence: string,
    rest: Partial<Diagnosis> = {},
  ): Diagnosis => ({
    ...{
      rule,
      looksAt: SUMMARIES[rule],
      title,
      evidence,
      proof: { kind: 'seen' },
      states: [],
      picture: null,
    },
    ...{ change: null, advice: '', tried: null, explains: 0 },
    ...rest,
  })
  const told: Diagnosis[] = []
  const { bestEpisodes, learnedEpisodes, scale, poor } = context
  if (!bestEpisodes) return told
  const missing = context.missing
  const best =
    context.blindness > 0
      ? 'the best policy that was found which acts on what the agent sees'
      : 'the optimal policy'
  // Where a random policy is as good as the best there was nothing to be learned.
  const something =
    Math.abs(bestEpisodes.value - context.randomEpisodes.value) >
    1e-9 * Math.max(1, Math.abs(bestEpisodes.value))
  if (!poor && (something || !findings.length))
    told.push(
      summary(
        'fine',
        `${findings.some(({ rule, explains }) => explains > 0 && rule !== 'exploring-costs') ? 'Learning is not at fault' : 'Nothing is wrong'}: ${
          missing < 0.001 * scale
            ? `what was learned is as good as ${best}.`
            : `what was learned lacks ${percent(missing / scale)} of what is between a random and the optimal policy.`
        }`,
        `It is worth ${amount(learnedEpisodes.value)}, the optimal policy ${amount(bestEpisodes.value)}, a random one ${amount(context.randomEpisodes.value)}; all three are exact, with the step limit.`,
      ),
    )
  else if (poor && !findings.some(({ explains }) => explains > 0))
    told.push(
      summary(
        'unexplained',
        'No rule explains why it is worse than the optimum.',
        `What was learned is worth ${amount(learnedEpisodes.value)}, the optimal policy ${amount(bestEpisodes.value)}. None of the changes that the rules suggest made it better when they were tried.`,
        { explains: missing },
      ),
    )
  if (others.length) told.push(...luckOf(context, others, summary))
  return told
}

type Summary = (rule: SummaryRuleId, title: string, evidence: string, rest?: Partial<Diagnosis>) => Diagnosis

/** Of what is missing; what is better than the best of the model by rounding lacks nothing. */
function meanOf(shares: readonly number[]): number {
  return shares.reduce((sum, share) => sum + Math.max(0, share), 0) / shares.length
}

/** Whether a run was lucky, or the runs fall into groups. */
function luckOf(
  context: DiagnosisContext,
  others: readonly DiagnosisContext[],
  summary: Summary,
): Diagnosis[] {
  const shares = [context, ...others].map(({ missing, scale }) => missing / scale)
  const sorted = shares.toSorted((a, b) => a - b)
  const place = sorted.indexOf(shares[0]) + 1
  const poor = shares.filter((share) => share > POOR).length
  const of = shares.length
  if (poor === 0 || poor === of) return []
  const picture = {
    title: 'what is missing to the optimum, in parts of what is between it and a random policy',
    bars: sorted.map((value, i) => ({
      label: i + 1 === place ? 'this run' : `${i + 1}`,
      value,
      group: i < of - poor ? `fine: ${counted(of - poor, 'run')}` : `not fine: ${counted(poor, 'run')}`,
    })),
  }
  const mine = context.poor
  const rare = mine ? poor / of : (of - poor) / of
  const two = poor > 0.2 * of && poor < 0.8 * of
  return [
    summary(
      'luck',
      two
        ? `The seeds disagree: ${of - poor} of ${of} runs are fine, ${poor} are not.`
        : mine
          ? `It was bad luck: ${of - poor} of ${of} runs with these settings are fine.`
          : `It was luck: ${poor} of ${of} runs with these settings are not fine.`,
      `This run is number ${place} of ${of}, the best one first. Of what is between a random and the optimal policy the ${counted(of - poor, 'run')} that ${of - poor === 1 ? 'is' : 'are'} fine lack${of - poor === 1 ? 's' : ''} ${percent(meanOf(sorted.slice(0, of - poor)))} on average, the other${poor === 1 ? ' one lacks' : `s lack`} ${percent(meanOf(sorted.slice(of - poor)))}.`,
      {
        proof: { kind: 'seeds', seen: mine ? poor : of - poor, of },
        picture,
        explains: mine && rare < 0.2 ? context.missing : 0,
      },
    ),
  ]
}

/**
 * What explains most of what was not learned first; of what explains about as much, the more particular; what exploring costs
 * comes after that.
 */
function ranked(findings: readonly Diagnosis[]): Diagnosis[] {
  const ofPolicy = findings.filter(({ tried }) => tried?.of !== 'behaviour')
  const most = Math.max(0, ...ofPolicy.map(({ explains }) => explains))
  const group = (finding: Diagnosis) => {
    // What holds of the run comes first, unless the environment or the settings keep it from better.
    if (finding.rule === 'fine') return most > 0 ? 2 : 0
    if (finding.explains <= 0) return 4
    if (finding.tried?.of === 'behaviour') return 3
    return finding.explains >= AS_MUCH * most ? 1 : 2
  }
  const order = ({ rule }: Diagnosis) => DIAGNOSIS_RULE_IDS.indexOf(rule)
  return [...findings].sort(
    (a, b) => group(a) - group(b) || (group(a) === 2 ? b.explains - a.explains : 0) || order(a) - order(b),
  )
}
