// Bundles a TypeScript file, so that it runs on plain Node, and calls its `main` with the arguments behind it.
import { basename } from 'node:path'
import { bundle } from './bundle.mjs'

const [, , entry, ...args] = process.argv
const outfile = `.worker/${basename(entry, '.ts')}.mjs`
await bundle(entry, outfile)
const { main } = await import(new URL(`../${outfile}`, import.meta.url).href)
await main(args)
