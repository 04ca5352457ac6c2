import { formatCount } from '../formats/number'
import type { StoryStep } from '../problem'
import type { CheckReport, Finding, LeftOut, Proof, Severity } from './finding'

/** A finding as it is written for programs. */
export interface FindingData {
  readonly severity: Severity
  readonly rule: string
  readonly message: string
  readonly where: string
  /** The shortest way there. */
  readonly path: readonly StoryStep[]
  readonly proof: Proof
}

/** A report for programs. */
export function reportData({ findings, states, rows, proved, leftOut }: CheckReport) {
  return {
    findings: findings.map(({ severity, rule, where, path, proof, ...finding }): FindingData => ({
      severity,
      rule,
      message: messageOf(finding),
      where,
      path,
      proof,
    })),
    proved: proved.map(({ rule, sentence }) => ({ rule, sentence })),
    leftOut: leftOut.map(({ rule, why }) => ({ rule, why })),
    states,
    rows,
  }
}

/** What was found, in one line: what, and what to do about it. */
export function messageOf({ cause, remedy }: Pick<Finding, 'cause' | 'remedy'>): string {
  return remedy ? `${cause} ${remedy}` : cause
}

/** Which of the two was shown: that an environment is well formed, or that it does what it should. */
export function scopeSentence({ states, findings, proved }: CheckReport): string {
  if (!states) return 'No model can be made of it, so that nothing else was looked at.'
  const own = [...findings, ...proved].some(({ rule }) => rule === 'check' || rule === 'expected')
  return `Proved over all ${formatCount(states)} states, not sampled. These rules are about its form; whether it is the environment that was meant, ${
    own
      ? 'its own checks and expectations say as far as they go.'
      : 'nothing here can say: it has no checks and no expectations of its own.'
  }`
}

/** What was not looked for, and why: `trap: There are more than …`. */
export function leftOutText({ rule, why }: LeftOut): string {
  return `${rule}: ${why}`
}

/** A report as lines for people: findings with the way to each, then what holds. */
export function reportLines(report: CheckReport): string {
  const { findings, proved, leftOut, states, rows } = report
  const faults = findings.filter(({ severity }) => severity !== 'fact')
  const facts = findings.filter(({ severity }) => severity === 'fact')
  return [
    ...faults.flatMap((finding) => [
      `${finding.where}: ${finding.severity}, ${finding.rule}: ${messageOf(finding)}`,
      ...finding.path.map((step, i) => `  ${i + 1}. ${stepText(step)}`),
    ]),
    ...(faults.length ? [] : ['No error and no warning.']),
    ...(proved.length ? ['Holds in all states:', ...proved.map(({ sentence }) => `  ${sentence}`)] : []),
    ...(leftOut.length ? ['Not looked for:', ...leftOut.map((each) => `  ${leftOutText(each)}`)] : []),
    ...(facts.length ? ['Facts:', ...facts.map(({ cause }) => `  ${cause}`)] : []),
    // What does not compile has none.
    ...(states ? [`${formatCount(states)} states, ${formatCount(rows)} pairs of a state and an action`] : []),
    '',
  ].join('\n')
}

/** A step of a story: `left 2: order 1 (sold = no)`. */
export function stepText({ state, action, chances }: StoryStep): string {
  return `${state}: ${action}${chances ? ` (${chances})` : ''}`
}

const TITLES: Readonly<Record<Severity, string>> = { error: 'Errors', warning: 'Warnings', fact: 'Facts' }

/** A report as Markdown, with the stories as tables. */
export function reportMarkdown(name: string, report: CheckReport): string {
  const { findings, proved, leftOut, states, rows } = report
  const parts = (Object.keys(TITLES) as Severity[]).flatMap((severity) => {
    const those = findings.filter((finding) => finding.severity === severity)
    if (!those.length) return []
    return [
      `## ${TITLES[severity]}`,
      ...those.flatMap((finding) => [
        severity === 'fact'
          ? `- ${escaped(messageOf(finding))}`
          : `### ${escaped(finding.where)}: ${finding.rule}`,
        ...(severity === 'fact' ? [] : [escaped(messageOf(finding)), ...storyTable(finding.path)]),
      ]),
    ]
  })
  return [
    `# Check of ${escaped(name)}`,
    states ? `${formatCount(states)} states, ${formatCount(rows)} pairs of a state and an action.` : '',
    scopeSentence(report),
    ...parts,
    ...(proved.length ? ['## What holds', ...proved.map(({ sentence }) => `- ${escaped(sentence)}`)] : []),
    ...(leftOut.length
      ? ['## Not looked for', ...leftOut.map((each) => `- ${escaped(leftOutText(each))}`)]
      : []),
  ]
    .filter(Boolean)
    .join('\n\n')
    .replaceAll('\n\n- ', '\n- ')
    .replaceAll(/^(## .*)\n- /gm, '$1\n\n- ')
    .concat('\n')
}

function storyTable(path: readonly StoryStep[]): string[] {
  if (!path.length) return []
  const line = (cells: readonly (string | number)[]) => `| ${cells.join(' | ')} |`
  return [
    [
      line(['step', 'state', 'action', 'outcome']),
      line(['---:', '---', '---', '---']),
      ...path.map(({ state, action, chances }, i) =>
        line([i + 1, escaped(state), escaped(action), escaped(chances)]),
      ),
    ].join('\n'),
  ]
}

/** Text that Markdown shows as it is. */
export function escaped(text: string): string {
  return text.replace(/[\\`*_{}[\]<>#|]/g, '\\$&')
}
