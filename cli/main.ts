// What rules may need beside the core is handed in by whoever runs them.
import '../core/formulas/formula'
import '../core/time/recurrence-days'
import { readFileSync } from 'node:fs'
import { sayProblem } from '../core/language/problems'
import { printable, runCase } from '../core/rehearsal/case'
import { caseSchema, readCase } from '../core/rehearsal/case-file'

const HELP = `skylever rehearse FILE…   runs rehearsals from case files and prints what happened as JSON
skylever schema           prints the JSON Schema of case files

--quiet                   prints only what differs from what a case expects
Exit code 0: everything came as expected; 1: something did not; 2: a file could not be read or run.
`

/** The command line. Answers the exit code. */
export function main(
  args: readonly string[],
  print: (text: string) => void = (text) => process.stdout.write(text),
  complain: (text: string) => void = (text) => process.stderr.write(text),
): number {
  const [command, ...rest] = args
  if (command === 'schema') {
    print(`${JSON.stringify(caseSchema(), null, 2)}\n`)
    return 0
  }
  const files = rest.filter((one) => !one.startsWith('--'))
  const unknown = rest.find((one) => one.startsWith('--') && one !== '--quiet')
  if (command !== 'rehearse' || files.length === 0 || unknown !== undefined) {
    complain(unknown === undefined ? HELP : `there is no option ${unknown}\n\n${HELP}`)
    return command === 'help' || command === '--help' ? 0 : 2
  }
  const quiet = rest.includes('--quiet')
  let code = 0
  const outcomes: object[] = []
  for (const file of files) {
    let text: string
    try {
      text = readFileSync(file, 'utf8')
    } catch (error) {
      complain(`${file}: cannot be read: ${error instanceof Error ? error.message : String(error)}\n`)
      code = 2
      continue
    }
    const read = readCase(text)
    const ran = read.ok ? runCase(read.value) : read
    if (!ran.ok) {
      complain(`${file}: ${sayProblem(ran.problem)}\n`)
      code = 2
      continue
    }
    const { wrong } = ran.value
    for (const line of wrong) complain(`${file}: ${line}\n`)
    if (wrong.length > 0) code = Math.max(code, 1)
    outcomes.push(printable(ran.value))
  }
  if (!quiet) print(`${JSON.stringify(outcomes.length === 1 ? outcomes[0] : outcomes, null, 2)}\n`)
  return code
}
