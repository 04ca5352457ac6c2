import { escaped, leftOutText, messageOf, scopeSentence } from '../check/report'
import type { CheckReport } from '../check/finding'
import { formatCount, significantNumber } from '../formats/number'
import { kindOf, type EnvironmentDocument } from '../kinds/kinds'
import { learnMethod } from '../learn/methods/methods'
import { planMethod } from '../plan/plan-methods'
import { firstChoice } from '../settings/first-choice'
import { settingsInBrief } from '../settings/settings-in-brief'
import { addView } from './lesson'
import { newLesson, type Lesson } from './lesson-document'
import { checkScene } from './read-lesson'

/** Lines of an environment's text at the most: what is longer is better read as a file. */
const LINES = 120
/** Findings of one rule at the most: paper is no place for hundreds of them. */
const ALIKE = 6
/** Further than any run goes: to its end. */
const TO_THE_END = 1e9

/** An environment as a report to be printed: what it is, what Check finds, the plan, a run with its suggested settings. */
export async function reportOf(document: EnvironmentDocument): Promise<Lesson> {
  const choice = firstChoice(document)
  const method = planMethod('value-iteration')
  const covered = kindOf(document).isCovered(document)
  const views = [
    { title: 'What it is', text: await whatItIs(document), scene: { stage: 'build' } },
    { title: 'What Check finds', text: '', scene: { stage: 'check' } },
    ...(covered
      ? []
      : [
          {
            title: 'Solved exactly',
            text: `${method.title} with a discount of ${significantNumber(document.discount, 6)}, until no value is further from the truth than $10^{-9}$: [[sweeps]] sweeps. The start is worth [[start value]].`,
            scene: { stage: 'plan', plan: { method: 'value-iteration', finished: true, tolerance: 1e-9 } },
          },
        ]),
    {
      title: `Learned: ${learnMethod(choice.method).title}`,
      text: `Settings: ${settingsInBrief(choice)}. After [[episodes]] episodes and [[steps]] steps${covered ? '' : ' the greedy policy is worth [[policy value]] at the start; [[optimal value]] is possible'}.`,
      scene: { stage: 'learn', learn: { choice, steps: TO_THE_END } },
    },
  ]
  return views.reduce(
    (lesson, { title, text, scene }) =>
      addView(lesson, { title, text, notes: '' }, checkScene(scene, document), { shelf: null, document }),
    newLesson(document.name),
  )
}

async function whatItIs(document: EnvironmentDocument): Promise<string> {
  const lines = kindOf(document).text(document).split('\n')
  const more = lines.length - LINES
  return [
    document.note,
    `Discount ${significantNumber(document.discount, 6)}; ${document.cap ? `episodes are cut off after ${formatCount(document.cap)} steps` : 'no step limit'}.`,
    [
      '```',
      ...lines.slice(0, LINES),
      ...(more > 0 ? [`… and ${formatCount(more)} more lines`] : []),
      '```',
    ].join('\n'),
    await aloud(document),
  ]
    .filter(Boolean)
    .join('\n\n')
}

/** The same in sentences, where it can be read aloud. */
async function aloud(document: EnvironmentDocument): Promise<string> {
  const sentences = (await kindOf(document).aloud?.(document)) ?? []
  const told = sentences.slice(0, LINES).map((sentence) => `- ${escaped(sentence)}`)
  return told.length ? ['In plain words:', '', ...told].join('\n') : ''
}

/** A line for each finding, the first ones of very many of a rule. */
function findingLines(findings: CheckReport['findings']): string[] {
  const counts = new Map<string, number>()
  for (const { rule } of findings) counts.set(rule, (counts.get(rule) ?? 0) + 1)
  const told = new Map<string, number>()
  return findings.flatMap((finding) => {
    const { rule, severity, where } = finding
    const place = (told.get(rule) ?? 0) + 1
    told.set(rule, place)
    if (place > ALIKE) return []
    const more = place === ALIKE ? counts.get(rule)! - ALIKE : 0
    return [
      `${severity}, ${where}: ${messageOf(finding)}`,
      ...(more > 0 ? [`and ${formatCount(more)} more of this kind.`] : []),
    ]
  })
}

/** What Check found, as Markdown without the stories. */
export function foundText(report: CheckReport): string {
  const { findings, proved, leftOut } = report
  const list = (lines: readonly string[]) => lines.map((line) => `- ${escaped(line)}`).join('\n')
  return [
    scopeSentence(report),
    findings.some(({ severity }) => severity !== 'fact') ? '' : '**No error and no warning.**',
    list(findingLines(findings)),
    proved.length ? `What holds:\n\n${list(proved.map(({ sentence }) => sentence))}` : '',
    leftOut.length ? `Not looked for:\n\n${list(leftOut.map(leftOutText))}` : '',
  ]
    .filter(Boolean)
    .join('\n\n')
}
