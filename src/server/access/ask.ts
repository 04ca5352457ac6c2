import { createInterface } from 'node:readline/promises'
import { Writable } from 'node:stream'
import { SHORTEST } from './pass-phrase'

/** Asks for a pass phrase in the terminal until the same one was written twice. It is not shown. */
export async function askPhrase(say: (line: string) => void): Promise<string> {
  for (;;) {
    const first = await hiddenLine('Pass phrase: ')
    if (first.length < SHORTEST) say(`It needs at least ${SHORTEST} characters.`)
    else if (first === (await hiddenLine('Repeat it: '))) return first
    else say('The two do not match.')
  }
}

/** A line that is not shown while it is written. */
async function hiddenLine(question: string): Promise<string> {
  const nowhere = new Writable({ write: (_, __, done) => done() })
  const terminal = createInterface({ input: process.stdin, output: nowhere, terminal: true })
  terminal.once('SIGINT', () => process.exit(130))
  // Only now, when the terminal shows nothing of what is written.
  process.stdout.write(question)
  const line = await terminal.question('')
  terminal.close()
  process.stdout.write('\n')
  return line
}
