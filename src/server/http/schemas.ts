import { jsonSchema, SCHEMA_NAMES } from '../../core/formats/json-schemas'
import { answer, jsonAnswer, problemAnswer } from './answers'

/** GET: the JSON Schema of a document that can be read. */
export function read(request: Request, name: string): Promise<Response> {
  return answer(request, async () => {
    const known = SCHEMA_NAMES.find((each) => `${each}.json` === name)
    return known
      ? jsonAnswer(jsonSchema(known))
      : problemAnswer(404, {
          place: 'schema',
          cause: `There is no schema ${name.slice(0, 60)}.`,
          remedy: `Ask for one of ${SCHEMA_NAMES.map((each) => `${each}.json`).join(', ')}.`,
        })
  })
}
