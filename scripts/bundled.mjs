// Bundles a TypeScript file with the core and the server, so that it runs on plain Node, and calls its `main`.
import { build } from 'esbuild'
import { basename } from 'node:path'

const [, , entry, ...args] = process.argv
const outfile = `.worker/${basename(entry, '.ts')}.mjs`
await build({
  entryPoints: [entry], outfile, bundle: true, platform: 'node', format: 'esm', target: 'node20', external: ['better-sqlite3', 'esbuild', 'json-rules-engine'], logLevel: 'warning',
  banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
})
const { main } = await import(new URL(`../${outfile}`, import.meta.url).href)
await main(args)
