// Fills the demo workspace: bundles demo/fill.ts, so that it runs on plain Node, and calls it.
import { build } from 'esbuild'

await build({
  entryPoints: ['demo/fill.ts'], outfile: '.worker/fill.mjs', bundle: true, platform: 'node', format: 'esm', target: 'node20',
  external: ['better-sqlite3'], logLevel: 'warning',
  banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
})
const { main } = await import(new URL('../.worker/fill.mjs', import.meta.url).href)
await main(process.argv.slice(2))
