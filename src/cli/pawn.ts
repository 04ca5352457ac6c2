import { runCommandLine } from './main'

// A reader such as `head` may leave early: that is no fault of ours.
process.stdout.on('error', (error: NodeJS.ErrnoException) => {
  if (error.code !== 'EPIPE') throw error
  process.exit(0)
})

process.exitCode = await runCommandLine(process.argv.slice(2), {
  out: (text) => void process.stdout.write(text),
  err: (text) => void process.stderr.write(text),
  isWatched: process.stderr.isTTY,
})
