import { expect, it } from 'vitest'
import { readConfig } from './config'

it('needs nothing, and takes what is set', () => {
  expect(readConfig({ PATH: '/bin' })).toEqual({ backupsKept: 14 })
  expect(
    readConfig({
      JAUNTY_PAWN_BACKUPS: '/copies',
      JAUNTY_PAWN_BACKUPS_KEPT: '3',
      JAUNTY_PAWN_HOSTS: 'pawn.example.org, 192.168.1.7',
    }),
  ).toEqual({ backups: '/copies', backupsKept: 3 })
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
