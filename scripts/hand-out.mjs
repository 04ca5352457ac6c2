// Bundles the page that stands alone into .workers/hand-out.html, unless it is there already, made from the same sources. What
// is handed out is put into its place by src/core/lesson/hand-out.ts.
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { deflateRawSync } from 'node:zlib'
import { addToHash } from './build.mjs'

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)))
const FILE = join(ROOT, '.workers', 'hand-out.html')
const STAMP = join(ROOT, '.workers', '.hand-out-built-from')
/** Letters that are in the page; others are those of the system. */
const FONTS =
  /(source-sans-3-(latin|greek)-wght-normal|alegreya-latin-wght-(normal|italic)|source-code-pro-latin-wght-normal|KaTeX_(Main-Regular|Main-Bold|Math-Italic|AMS-Regular|Size[1-4]-Regular))\.woff2$/
const SHIMS = {
  'next/dynamic': './src/standalone/shims/dynamic.tsx',
  'next/link': './src/standalone/shims/link.tsx',
  'next/navigation': './src/standalone/shims/navigation.ts',
}
/** Nothing is fetched: all that the page may do is said here. */
const POLICY =
  "default-src 'none'; script-src 'unsafe-inline' 'wasm-unsafe-eval' blob:; worker-src blob:; style-src 'unsafe-inline'; font-src data:; img-src data: blob:; connect-src blob: data:"

/** @returns the file of the page */
export async function buildHandOut() {
  const hash = createHash('sha256')
  for (const source of ['src', 'scripts/hand-out.mjs', 'package-lock.json'])
    addToHash(hash, join(ROOT, source))
  const digest = hash.digest('hex')
  if (existsSync(FILE) && existsSync(STAMP) && readFileSync(STAMP, 'utf8') === digest) return FILE
  console.error('Building the page that stands alone …')
  const [program, style] = await bundle('src/standalone/main.ts')
  const globals = await globalStyle()
  mkdirSync(dirname(FILE), { recursive: true })
  writeFileSync(FILE, html({ program, style: globals + style }))
  writeFileSync(STAMP, digest)
  return FILE
}

/** @returns [script, style] */
async function bundle(entry, contents) {
  const { build } = await import('esbuild')
  const { outputFiles } = await build({
    absWorkingDir: ROOT,
    ...(contents
      ? { stdin: { contents, loader: 'css', resolveDir: join(ROOT, 'src/app') } }
      : { entryPoints: [entry] }),
    outdir: 'out',
    write: false,
    bundle: true,
    minify: true,
    format: 'iife',
    target: 'es2022',
    jsx: 'automatic',
    define: { 'process.env.NODE_ENV': '"production"', 'import.meta.url': '"about:blank"' },
    alias: SHIMS,
    plugins: [{ name: 'fonts', setup: onlyFonts }],
    logLevel: 'error',
  })
  const text = (ending) => outputFiles.find(({ path }) => path.endsWith(ending))?.text ?? ''
  return contents ? [text('.css')] : [text('.js'), text('.css')]
}

/** Fonts go into the page as they are; those that are left out as nothing. */
function onlyFonts(build) {
  build.onLoad({ filter: /\.(woff2?|ttf)$/ }, ({ path }) =>
    FONTS.test(path)
      ? { contents: readFileSync(path), loader: 'dataurl' }
      : { contents: '', loader: 'dataurl' },
  )
}

/** The style sheet of the application, with the classes that are in use. */
async function globalStyle() {
  const { default: postcss } = await import('postcss')
  const { default: tailwind } = await import('@tailwindcss/postcss')
  const from = join(ROOT, 'src/app/globals.css')
  const { css } = await postcss([tailwind({ base: ROOT })]).process(readFileSync(from, 'utf8'), { from })
  const [style] = await bundle('', css)
  return style
}

function html({ program, style }) {
  const packed = (text) => deflateRawSync(Buffer.from(text), { level: 9 }).toString('base64')
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="Content-Security-Policy" content="${POLICY}">
<title>Jaunty Pawn</title>
<script>document.documentElement.dataset.theme = matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'day'</script>
</head>
<body>
<div id="page"><p style="margin:2em;font-family:sans-serif">Opening …</p></div>
<noscript>This page needs JavaScript.</noscript>
<script id="lesson" type="application/json"><!--lesson--></script>
<script id="style" type="text/plain">${packed(style)}</script>
<script id="program" type="text/plain">${packed(program)}</script>
<script>
async function unpack(id) {
  const packed = document.getElementById(id)
  const bytes = Uint8Array.from(atob(packed.textContent), (letter) => letter.charCodeAt(0))
  packed.remove()
  return new Response(new Blob([bytes]).stream().pipeThrough(new DecompressionStream('deflate-raw'))).text()
}
async function open() {
  const style = document.createElement('style')
  style.textContent = await unpack('style')
  document.head.append(style)
  window.handOutScript = await unpack('program')
  const program = document.createElement('script')
  program.textContent = window.handOutScript
  document.body.append(program)
}
open().catch((error) => {
  document.getElementById('page').textContent = 'This page could not be opened here: ' + error + '. It needs a browser of 2023 or later.'
})
</script>
</body>
</html>
`
}
