// Runs every check, each to its end, and closes with the true sum. Types, lint and the build count as one each.
import { spawn } from 'node:child_process'
import { mkdirSync, readFileSync, rmSync } from 'node:fs'

const sum = { passed: 0, failed: 0 }

/** Compilers make very much that is soon forgotten: with more room for it they are done an eighth earlier. */
const TOOLS = { ...process.env, NODE_OPTIONS: `${process.env.NODE_OPTIONS ?? ''} --max-semi-space-size=64`.trim() }

/** The demo workspace that is filled once for all walks. */
const FILLED = { SKY_LEVER_DB: '.data/e2e-filled.db' }

/** What a check says is kept until it ends, so that two that run at once do not talk into each other. */
function run(name, command, args, env = TOOLS) {
  const started = Date.now()
  return new Promise((resolve) => {
    const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'], env })
    const said = []
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (part) => said.push(part))
    child.on('error', (error) => said.push(Buffer.from(`${error.message}\n`)))
    child.on('close', (status) => {
      console.log(
        `\n— ${name}\n${Buffer.concat(said).toString()}— ${name}: ${status === 0 ? 'passed' : 'failed'} after ${Math.round((Date.now() - started) / 1000)} s`,
      )
      resolve(status === 0)
    })
  })
}

async function single(name, command, args) {
  const good = await run(name, command, args)
  if (good) sum.passed++
  else sum.failed++
  return good
}

/** Counts from a report; a runner that failed without a failed test, or wrote no report, is one failure. */
async function counted(name, command, args, report, count, env = TOOLS) {
  rmSync(report, { force: true })
  const good = await run(name, command, args, env)
  let found = { passed: 0, failed: 0 }
  try {
    found = count(JSON.parse(readFileSync(report, 'utf8')))
  } catch (error) {
    console.error(`${name} left no report: ${error.message}`)
  }
  sum.passed += found.passed
  sum.failed += found.failed
  if ((!good && found.failed === 0) || found.passed + found.failed === 0) sum.failed++
}

mkdirSync('test-results', { recursive: true })
const vitest = (report) => ({ passed: report.numPassedTests, failed: report.numFailedTests })
// What passed at the second try has passed; the list above the sum calls it flaky.
const playwright = ({ stats }) => ({ passed: stats.expected + stats.flaky, failed: stats.unexpected })

// Two at a time, one a core, and as much for the one as for the other. In a fresh clone the settings that types, lint
// and unit tests read are still to be made; types and the build both write .nuxt and so come one after the other.
const settings = run('settings', 'npx', ['nuxt', 'prepare'])
const [built] = await Promise.all([
  single('format', 'npx', ['prettier', '--check', '--log-level', 'warn', '.'])
    .then(() => settings)
    // One program for pages, server, core and tools: each by itself reads most of the others again.
    .then(() => single('types', 'npx', ['vue-tsc', '--noEmit', '-p', 'tsconfig.check.json']))
    .then(() => single('build', 'npx', ['nuxt', 'build'])),
  settings
    .then((good) => {
      if (!good) sum.failed++
      return counted('unit', 'npx', ['vitest', 'run'], 'test-results/unit.json', vitest)
    })
    .then(() => single('lint', 'npx', ['eslint', '.']))
    .then(() => single('nothing unused', 'npx', ['knip', '--no-progress']))
    // The workspace that the walks begin with: those who only walk fill it themselves.
    .then(() => run('demo', 'node', ['scripts/bundled.mjs', 'demo/fill.ts', '--fresh'], { ...process.env, ...FILLED })),
])
// What people use runs as they run it.
if (built)
  await counted('end to end', 'npx', ['playwright', 'test'], 'test-results/e2e.json', playwright, {
    ...process.env,
    SKY_LEVER_FILLED: FILLED.SKY_LEVER_DB,
  })
else sum.failed++

console.log(`\n${sum.passed} passed, ${sum.failed} failed`)
process.exit(sum.failed === 0 ? 0 : 1)
