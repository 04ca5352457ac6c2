import type { EnvironmentDocument } from '../kinds/kinds'
import { optionsOf } from '../kinds/options'
import { listNames, refuse } from '../problem'

/**
 * The document with an option taken.
 * @throws ProblemError for an option that is not there, and a value that it has not
 */
export function takeOption(document: EnvironmentDocument, name: string, value: string): EnvironmentDocument {
  const options = optionsOf(document)
  const option = options.find((each) => each.name === name)
  const place = `option ${name}`
  if (!option) {
    const names = listNames(
      options.map((each) => each.name),
      20,
    )
    return refuse(
      place,
      `There is no option “${name}”.`,
      names ? `The options are ${names}.` : `This ${document.kind} has no options.`,
    )
  }
  return (
    option.taken(value) ??
    refuse(
      place,
      `“${value}” is none of its values.`,
      `Its values are ${listNames(option.values, 20)}${option.more ? `; ${option.more}` : ''}.`,
    )
  )
}
