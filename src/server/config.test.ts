import { expect, it } from 'vitest'
import { readConfig } from './config'

it('needs nothing, and takes what is set', () => {
  expect(readConfig({ PATH: '/bin' })).toEqual({ backupsKept: 14, asks: false })
  expect(
    readConfig({
      JAUNTY_PAWN_BACKUPS: '/copies',
      JAUNTY_PAWN_BACKUPS_KEPT: '3',
      JAUNTY_PAWN_HOSTS: 'pawn.example.org, 192.168.1.7',
    }),
  ).toEqual({ backups: '/copies', backupsKept: 3, asks: true })
})

it('asks for the pass phrase where others can reach the server, or one was set', () => {
  const asks = (environment: Record<string, string>) => readConfig(environment).asks
  for (const HOST of ['', '127.0.0.1', '::1', 'localhost']) expect(asks({ HOST })).toBe(false)
  for (const HOST of ['0.0.0.0', '::', '192.168.1.7', 'pawn.example.org']) expect(asks({ HOST })).toBe(true)
  // Behind a proxy it listens on this machine alone, and is reached by others all the same.
  expect(asks({ JAUNTY_PAWN_HOSTS: 'pawn.example.org' })).toBe(true)
  expect(asks({ JAUNTY_PAWN_PROXIES: '1' })).toBe(true)
  expect(asks({ JAUNTY_PAWN_PASSPHRASE: 'four words of mine' })).toBe(true)
})

it('never tells what a secret is', () => {
  const told = (environment: Record<string, string>) => {
    try {
      readConfig(environment)
    } catch (error) {
      return String(error)
    }
    throw new Error('It is accepted.')
  }
  expect(
    told({ JAUNTY_PAWN_PASSPHRASE: '', JAUNTY_PAWN_DATABASE_TOKEN: '', JAUNTY_PAWN_CORES: 'abc' }),
  ).toMatch(/abc/)
  expect(told({ JAUNTY_PAWN_PASSPHRASES: 'very secret' })).not.toContain('very secret')
})

it('refuses what is not known or makes no sense, each by its name', () => {
  const wrong = () =>
    readConfig({ JAUNTY_PAWN_CORES: 'many', JAUNTY_PAWN_BAKCUPS: '/x', JAUNTY_PAWN_QUEUE: 'http://x' })
  expect(wrong).toThrow('JAUNTY_PAWN_CORES: It is “many”, which makes no sense here.')
  expect(wrong).toThrow(
    'JAUNTY_PAWN_BAKCUPS: There is no such setting. The settings are JAUNTY_PAWN_DATABASE',
  )
  expect(wrong).toThrow(/JAUNTY_PAWN_QUEUE: .*redis:\/\/localhost:6379/)
})
