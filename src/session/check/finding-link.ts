import type { CheckReport } from '../../core/check/finding'
import { copyAddressWith, partOfAddress } from '../address'

/** The part of an address that names a finding: its rule, and which one of that rule where it is not the first. */
const FINDING = 'finding'

/** The finding that an address asks for; null for none. */
export function linkedFinding(address: string): string | null {
  return partOfAddress(address, FINDING)
}

/** What a finding of a report is called in an address: `trap`, or `trap.2` for the second one. */
export function nameInLink({ findings }: Pick<CheckReport, 'findings'>, place: number): string {
  const { rule } = findings[place]
  const number = findings.slice(0, place + 1).filter((each) => each.rule === rule).length
  return number === 1 ? rule : `${rule}.${number}`
}

/** The place of a finding by its name in an address; null where there is none. */
export function placeOfLink(report: Pick<CheckReport, 'findings'>, name: string): number | null {
  const place = report.findings.findIndex((_, at) => nameInLink(report, at) === name)
  return place < 0 ? null : place
}

export const copyFindingLink = (name: string) => copyAddressWith(FINDING, name)
