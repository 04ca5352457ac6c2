import type { CheckReport } from '../../core/check/finding'

/** The part of an address that names a finding: its rule, and which one of that rule where it is not the first. */
const FINDING = 'finding'

/** The finding that an address asks for; null for none. */
export function linkedFinding(address: string): string | null {
  return new URL(address).searchParams.get(FINDING)
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

/** The address of the page at hand with a finding in it. */
export function findingLink(address: string, name: string): string {
  const url = new URL(address)
  url.search = ''
  url.searchParams.set(FINDING, name)
  return url.href
}

export async function copyFindingLink(name: string): Promise<void> {
  const link = findingLink(window.location.href, name)
  // The address bar has it too, for browsers that give no access to the clipboard.
  window.history.replaceState(null, '', link)
  await navigator.clipboard?.writeText(link).catch(() => {})
}
