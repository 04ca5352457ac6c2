// The first thing every script asks for: an old Node fails here in words, and not later in code.
const [major, minor] = process.versions.node.split('.').map(Number)
if (major < 20 || (major === 20 && minor < 9) || major > 24) {
  console.error(
    `Jaunty Pawn needs Node 20.9 to 24, and this is Node ${process.versions.node}. Install one of those; docs/running.md says why.`,
  )
  process.exit(1)
}
