#!/usr/bin/env node
// Bundles the command line once and runs it: it needs no server and no database.
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { bundle } from '../scripts/bundle.mjs'

const home = join(dirname(fileURLToPath(import.meta.url)), '..')
const outfile = join(home, '.worker', 'skylever.mjs')
await bundle(join(home, 'cli', 'main.ts'), outfile)
const { main } = await import(outfile)
process.exitCode = await main(process.argv.slice(2))
