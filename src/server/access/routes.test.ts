import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { DIRECT_ROUTES } from '../direct'
import type { Role } from './caller'
import { ROUTES, whoMayCall } from './routes'

const APP = join(process.cwd(), 'src', 'app')
/** What Next.js and the server serve besides the folder. */
const BESIDES = ['/_next/static/[...file]', '/icon.svg']

/** Every page and every route of the folder, as Next.js calls it. */
const served = readdirSync(APP, { recursive: true, encoding: 'utf8' })
  .filter((file) => /(^|\/)(page\.tsx|route\.ts)$/.test(file))
  .map((file) => `/${file}`.replace(/\/(page\.tsx|route\.ts)$/, '').replace(/\/\([^)]*\)/g, '') || '/')

/** An address of a route, with an id where one belongs. */
const example = (route: string) =>
  route
    .replace(/\/\[\[\.\.\.\w+\]\]/, '/part')
    .replace(/\[\.\.\.\w+\]/, 'a/b.js')
    .replace(/\[\w+\]/g, '3f2a-x_9')

it('each page and each route says who may call it, and nothing else does', () => {
  expect(Object.keys(ROUTES).sort()).toEqual([...served, ...Object.keys(DIRECT_ROUTES), ...BESIDES].sort())
})

it('an address has the roles of its route', () => {
  for (const [route, roles] of Object.entries(ROUTES))
    expect([route, whoMayCall(example(route))]).toEqual([route, roles])
  expect(whoMayCall('/environment/x')).toEqual(['owner'])
  expect(whoMayCall('/environment/x/learn')).toEqual(['owner'])
  expect(whoMayCall('/join')).toEqual(['anyone'])
})

it('students and strangers reach nothing by what only looks like an address of theirs', () => {
  const open = (path: string) => whoMayCall(path).some((role: Role) => role !== 'owner')
  const tricks = [
    '/class/../api/environments',
    '/class/..%2f..%2fapi/environments',
    '/class//api/environments',
    '/class/exercise/a/b',
    '/class/exercise/a%2fb',
    '/class/exercise/',
    '/CLASS',
    '/class/',
    '/class;x',
    '/class\\..\\api',
    '//class',
    '/api/class/exercises/%2e%2e/hand-ins',
    '/api/class/exercises/a/hand-ins/',
    '/join/a/../../../api/shelf',
    '/_next/data/x/class.json',
    '/_next/static/../../api/environments',
    '/_next/image',
    '/api/health/..',
    '/api/environments',
    '/nowhere',
    '',
  ]
  expect(tricks.filter(open)).toEqual([])
})
