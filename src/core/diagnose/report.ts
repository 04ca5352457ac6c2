import { formatNumber } from '../formats/number'
import type { Model } from '../model/model'
import type { Diagnosis, DiagnosisReport } from './finding'
import { amount, percent } from './words'

/** How sure a finding is, in words. */
export function proofWords({ proof }: Diagnosis): string {
  switch (proof.kind) {
    case 'proved':
      return 'proved from the model and the settings'
    case 'seen':
      return 'seen in this run'
    case 'seeds':
      return `seen in ${proof.seen} of ${proof.of} runs`
  }
}

/** What came of trying the change, as a full sentence; empty where it was not tried. */
export function triedWords({ tried }: Diagnosis): string {
  if (!tried) return ''
  const runs = tried.runs === 1 ? 'in one run' : `in the mean of ${tried.runs} runs with the same seeds`
  const what = tried.of === 'policy' ? 'the learned policy' : 'an episode, exploring included,'
  const { before, after } = tried
  return after > before
    ? `Tried: ${runs} ${what} is then worth ${amount(after)} instead of ${amount(before)}.`
    : `Tried: alone it does not help, ${runs} ${what} is then worth ${amount(after)} (before ${amount(before)}).`
}

/** What is missing, in a line for the head of the list. */
export function summaryLine({ learned, best, random }: DiagnosisReport): string {
  if (learned === null || best === null || random === null) return 'No value is finite here.'
  const share = (learned - random) / Math.max(Math.abs(best - random), 1e-9)
  return `The learned policy is worth ${formatNumber(learned)}, the optimal one ${formatNumber(best)}, a random one ${formatNumber(random)}. It has come ${percent(Math.max(0, Math.min(1, share)))} of the way from random to optimal.`
}

/** Findings that are told first; the others where they are asked for. */
export const TOLD_FIRST = 3

/** As text, for people. */
export function diagnosisText(
  report: DiagnosisReport,
  { labels }: Pick<Model, 'labels'>,
  all = false,
): string {
  const told = all ? report.findings : report.findings.slice(0, TOLD_FIRST)
  const lines = [summaryLine(report), '']
  told.forEach((finding, i) => {
    lines.push(`${i + 1}. ${finding.title} (${finding.rule}, ${proofWords(finding)})`)
    lines.push(`   ${finding.evidence}`)
    if (finding.states.length) lines.push(`   states: ${namesOf(finding.states, labels)}`)
    if (finding.change) lines.push(`   ${finding.change.words} ${triedWords(finding)}`.trimEnd())
    if (finding.advice) lines.push(`   ${finding.advice}`)
  })
  const rest = report.findings.length - told.length
  if (rest > 0) lines.push('', `${rest} more: add --all.`)
  return lines.join('\n') + '\n'
}

function namesOf(states: readonly number[], labels: readonly string[]): string {
  const named = states.slice(0, 10).map((s) => labels[s])
  return named.join(', ') + (states.length > named.length ? ` and ${states.length - named.length} more` : '')
}

/** As plain data, for programs: states by their names. */
export function diagnosisData(report: DiagnosisReport, { labels }: Pick<Model, 'labels'>) {
  return {
    ...report,
    findings: report.findings.map(({ states, explains, ...finding }) => ({
      ...finding,
      states: states.map((s) => labels[s]),
      // Of what keeps everything from being learned, no number says how much that is.
      explains: Number.isFinite(explains) ? explains : null,
    })),
  }
}
