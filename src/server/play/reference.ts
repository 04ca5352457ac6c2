import { OPERATIONS, schemaOf } from './openapi'

interface Property {
  readonly type?: string | readonly string[]
  readonly description?: string
  readonly items?: Property
  readonly enum?: readonly unknown[]
  readonly minimum?: number
  readonly maximum?: number
  readonly default?: unknown
  readonly properties?: Readonly<Record<string, Property>>
  readonly required?: readonly string[]
}

const INTRODUCTION = `# Playing by program

Students’ programs play the environments that were handed out to their class, over HTTP and JSON. This page is made from the
description of the interface, [protocol.openapi.json](protocol.openapi.json) (OpenAPI 3.1); a test holds both to what the
server answers. Two clients of one page each, without dependencies, are in [clients/](../clients): \`class_client.py\` for
Python, \`class-client.mjs\` for Node; both learn a table and hand in.

- **Who.** A request carries \`Authorization: Bearer TOKEN\`. A student takes a token from the page of the class; a new one
  ends the one before.
- **What an agent may know.** What it sees is a number; \`names\` says how it is called, \`possible\` which actions can be
  taken there. States that look alike have the same number. Chances and rewards of the model are not told.
- **Many at once.** One request takes an action in every open episode of a session: 64 at once are some forty times as fast
  as one by one.
- **Lost connections.** Requests for steps count up. The same number again is answered as before, and nothing happens twice;
  another number is refused, and says which is next. A session is kept for a quarter of an hour after the last request.
- **Chance.** Episode k of a session with a seed meets the chance that episode k of a score with that seed meets.
- **Handing in.** A hand-in has a part for each level and seed: begin a part, play its episodes to their end, go on with the
  next. Then it is scored. One that is not played to its end has used up a try;
  beginning another one for the same exercise gives it up.
- **Limits.** 1,024 episodes a session, 16 sessions, 2,000 requests a second for each student. Status 429 says how long to
  wait.
- **Refusals** come with status 400, 401, 404 or 429 and \`{"problems": [{"place", "cause", "remedy"}]}\`.
`

/** docs/protocol.md */
export function protocolReference(): string {
  const parts = OPERATIONS.map(({ route, method, summary, description, body, status, answer }) =>
    [
      `## ${summary}`,
      `\`${method.toUpperCase()} ${route}\``,
      ...(description ? [description] : []),
      ...(body ? [`Sent:\n\n${lines(schemaOf(body) as Property)}`] : []),
      answer
        ? `Answered with ${status}:\n\n${lines(schemaOf(answer) as Property)}`
        : `Answered with ${status} and nothing else.`,
    ].join('\n\n'),
  )
  return [INTRODUCTION.trimEnd(), ...parts].join('\n\n') + '\n'
}

function lines(schema: Property): string {
  if (schema.items && !schema.properties) return `A list; each of it:\n\n${lines(schema.items)}`
  return Object.entries(schema.properties ?? {})
    .map(([name, property]) => {
      const needed = schema.required?.includes(name) ? '' : ', may be left out'
      return `- \`${name}\`: ${typeText(property)}${needed}.${property.description ? ` ${property.description}` : ''}`
    })
    .join('\n')
}

function typeText({ type, items, enum: values, minimum, maximum, properties }: Property): string {
  if (values) return values.map((each) => `\`${JSON.stringify(each)}\``).join(', ')
  const types = Array.isArray(type) ? (type as string[]) : [String(type)]
  const words = types.map((each) => {
    if (each === 'array') return `list of ${items ? typeText(items) : 'anything'}`
    if (each === 'object' && properties) return `{${Object.keys(properties).join(', ')}}`
    return each === 'integer' ? 'whole number' : each
  })
  const range =
    minimum !== undefined && maximum !== undefined
      ? ` from ${minimum} to ${maximum}`
      : minimum !== undefined
        ? ` from ${minimum}`
        : ''
  return words.join(' or ') + range
}
