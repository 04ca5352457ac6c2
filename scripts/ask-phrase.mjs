// Asks for a pass phrase in the terminal, where somebody sits there.
import { createInterface } from 'node:readline/promises'
import { Writable } from 'node:stream'

/** Asks until the same one was written twice; null where nobody sits at the terminal. */
export const askPhrase = process.stdin.isTTY
  ? async () => {
      console.log(
        'Others can reach this server. Choose a pass phrase (8 characters at least): it opens the shelf for you.',
      )
      for (;;) {
        const first = await hiddenLine('Pass phrase: ')
        if (first.length < 8) console.log('That is shorter than 8 characters.')
        else if (first === (await hiddenLine('Once more: '))) return first
        else console.log('These were two different ones.')
      }
    }
  : null

/** A line that is not shown while it is written. */
async function hiddenLine(question) {
  process.stdout.write(question)
  const nowhere = new Writable({ write: (_, __, done) => done() })
  const terminal = createInterface({ input: process.stdin, output: nowhere, terminal: true })
  terminal.once('SIGINT', () => process.exit(130))
  const line = await terminal.question('')
  terminal.close()
  process.stdout.write('\n')
  return line
}
