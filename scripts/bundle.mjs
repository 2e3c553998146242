import { build } from 'esbuild'

/** Bundles a TypeScript entry with the core and the server into one file that runs on plain Node. */
export async function bundle(entry, outfile) {
  await build({
    entryPoints: [entry],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    external: ['better-sqlite3', 'esbuild', 'json-rules-engine'],
    logLevel: 'warning',
    // Some packages inside are still CommonJS and ask for `require`.
    banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
  })
}
