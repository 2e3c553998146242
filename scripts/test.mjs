// Runs every check, each to its end, and closes with the true sum. Types, lint and the build count as one each.
import { spawnSync } from 'node:child_process'
import { mkdirSync, readFileSync, rmSync } from 'node:fs'

const sum = { passed: 0, failed: 0 }

function run(name, command, args) {
  console.log(`\n— ${name}`)
  const started = Date.now()
  const { status } = spawnSync(command, args, { stdio: 'inherit', env: process.env })
  console.log(`— ${name}: ${status === 0 ? 'passed' : 'failed'} after ${Math.round((Date.now() - started) / 1000)} s`)
  return status === 0
}

function single(name, command, args) {
  const good = run(name, command, args)
  if (good) sum.passed++
  else sum.failed++
  return good
}

/** Counts from a report; a runner that failed without a failed test, or wrote no report, is one failure. */
function counted(name, command, args, report, count) {
  rmSync(report, { force: true })
  const good = run(name, command, args)
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
const playwright = ({ stats }) => ({ passed: stats.expected, failed: stats.unexpected + stats.flaky })

single('types', 'npx', ['nuxt', 'typecheck'])
single('lint', 'npx', ['eslint', '.'])
counted('unit', 'npx', ['vitest', 'run'], 'test-results/unit.json', vitest)
if (single('build', 'npx', ['nuxt', 'build'])) counted('end to end', 'npx', ['playwright', 'test'], 'test-results/e2e.json', playwright)
else sum.failed++

console.log(`\n${sum.passed} passed, ${sum.failed} failed`)
process.exit(sum.failed === 0 ? 0 : 1)
