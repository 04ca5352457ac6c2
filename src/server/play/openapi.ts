import type Joi from 'joi'
import { PROGRAM } from '../../core/program'
import * as play from '../contract/play'

/** A request of the protocol. */
interface Operation {
  readonly route: string
  readonly method: 'get' | 'post' | 'delete'
  readonly id: string
  readonly summary: string
  readonly description?: string
  readonly body?: Joi.Schema
  readonly status: 200 | 201 | 204
  readonly answer?: Joi.Schema
}

/** Every request of the protocol, in the order in which one needs them. */
export const OPERATIONS: readonly Operation[] = [
  {
    route: '/api/play',
    method: 'get',
    id: 'listExercises',
    summary: 'What is handed out',
    status: 200,
    answer: play.handedOut,
  },
  {
    route: '/api/play/sessions',
    method: 'post',
    id: 'beginSession',
    summary: 'Begin episodes',
    description:
      'All of them are played at once, each with chance of its own. The answer names what can be seen and done; how likely what is, and what it pays, is to be found out.',
    body: play.beginBody,
    status: 201,
    answer: play.begunAnswer,
  },
  {
    route: '/api/play/sessions/{session}/steps',
    method: 'post',
    id: 'takeActions',
    summary: 'Take an action in every open episode',
    description:
      'Where an action is not possible, nothing happens in any episode. After a lost connection the same request is sent again: its number has it answered as before.',
    body: play.stepsBody,
    status: 200,
    answer: play.stepsAnswer,
  },
  {
    route: '/api/play/sessions/{session}',
    method: 'get',
    id: 'readSession',
    summary: 'How a session stands',
    status: 200,
    answer: play.sessionAnswer,
  },
  {
    route: '/api/play/sessions',
    method: 'get',
    id: 'listSessions',
    summary: 'The sessions that are kept',
    description: 'One that nobody plays is kept for a quarter of an hour; 16 may be open at once.',
    status: 200,
    answer: play.sessionsAnswer,
  },
  {
    route: '/api/play/sessions/{session}',
    method: 'delete',
    id: 'closeSession',
    summary: 'Close a session',
    status: 204,
  },
  {
    route: '/api/play/hand-ins',
    method: 'post',
    id: 'beginHandIn',
    summary: 'Begin a hand-in',
    description:
      'It uses up a try. Its parts are played one by one, each level with each seed; after the last one it is scored.',
    body: play.handInBody,
    status: 201,
    answer: play.handInAnswer,
  },
  {
    route: '/api/play/hand-ins/{handIn}/parts',
    method: 'post',
    id: 'beginPart',
    summary: 'Begin a part of a hand-in',
    description: 'All its episodes at once, once only.',
    body: play.partBody,
    status: 201,
    answer: play.begunAnswer,
  },
  {
    route: '/api/play/hand-ins/{handIn}',
    method: 'get',
    id: 'readHandIn',
    summary: 'How a hand-in stands',
    status: 200,
    answer: play.handInAnswer,
  },
]

const JSON_TYPE = 'application/json'

/** The protocol as OpenAPI 3.1 describes it. */
export function openApi(): Readonly<Record<string, unknown>> {
  const paths: Record<string, Record<string, unknown>> = {}
  for (const operation of OPERATIONS) (paths[operation.route] ??= {})[operation.method] = described(operation)
  return {
    openapi: '3.1.0',
    info: {
      title: 'Playing by program',
      version: PROGRAM,
      description: 'Programs of students play the environments that were handed out to their class.',
    },
    servers: [{ url: '/', description: 'The server of the class' }],
    security: [{ token: [] }],
    paths,
    components: {
      securitySchemes: {
        token: { type: 'http', scheme: 'bearer', description: 'From the page of the class.' },
      },
      responses: {
        refused: {
          description: 'Something does not fit: place, cause and way out.',
          content: { [JSON_TYPE]: { schema: schemaOf(play.problemAnswer) } },
        },
      },
    },
  }
}

function described({ route, id, summary, description, body, status, answer }: Operation) {
  const named = /\{(\w+)\}/.exec(route)?.[1]
  return {
    operationId: id,
    summary,
    ...(description ? { description } : {}),
    ...(named
      ? { parameters: [{ name: named, in: 'path', required: true, schema: { type: 'string' } }] }
      : {}),
    ...(body
      ? { requestBody: { required: true, content: { [JSON_TYPE]: { schema: schemaOf(body) } } } }
      : {}),
    responses: {
      [status]: answer
        ? { description: summary, content: { [JSON_TYPE]: { schema: schemaOf(answer) } } }
        : { description: 'Done' },
      ...Object.fromEntries(
        ['400', '401', '404', '429'].map((code) => [code, { $ref: '#/components/responses/refused' }]),
      ),
    },
  }
}

/** A Joi schema as JSON Schema. */
export function schemaOf(schema: Joi.Schema): Readonly<Record<string, unknown>> {
  return schema['~standard'].jsonSchema.input({ target: 'draft-2020-12' }) as Readonly<
    Record<string, unknown>
  >
}
