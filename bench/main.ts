import { cpus } from 'node:os'
import { writeFileSync } from 'node:fs'
import { activities } from './activities'
import { asked } from './asked'
import { clocking, rehearsing } from './clock'
import { derived, formulas } from './derived'
import { endToEnd } from './end-to-end'
import { importing } from './import'
import { matching } from './matching'
import type { Row } from './measure'
import { messages } from './messages'
import { rolledUp, ruleList } from './rules'
import { worth } from './worth'

const table = (rows: readonly Row[]): string =>
  [
    '| | figure | ratio | target | |',
    '|---|---|---|---|---|',
    ...rows.map(
      (row) =>
        `| ${row.what} | ${row.figure} | ${row.ratio ?? ''} | ${row.target ?? ''} | ${row.target === null ? '' : row.met ? 'met' : '**missed**'} |`,
    ),
  ].join('\n')

const code = (text: string): string => `\`${text}\``

/** Prints the ratios and keeps them in `docs/performance.md` when called with `--keep`. */
export async function main(args: readonly string[]): Promise<void> {
  if (args.includes('--worked-out')) {
    // This part alone, to be looked at.
    console.log(table([...formulas(), ...(await derived(100_000))]))
    return
  }
  if (args.includes('--asked')) {
    console.log(table(await asked(100_000)))
    return
  }
  if (args.includes('--lists')) {
    console.log(table([...(await ruleList(1000, 300_000)), ...(await rolledUp(30_000, 60))]))
    return
  }
  if (args.includes('--activities')) {
    console.log(table(await activities()))
    return
  }
  if (args.includes('--messages')) {
    console.log(table(await messages()))
    return
  }
  if (args.includes('--worth')) {
    console.log(table(await worth()))
    return
  }
  if (args.includes('--written')) {
    console.log(table(endToEnd()))
    return
  }
  const matched = await matching()
  const written = endToEnd()
  const brought = await importing(100_000)
  const clocked = [...(await clocking(1_000_000, 10_000)), ...rehearsing(10_000)]
  const worked = [...formulas(), ...(await derived(100_000))]
  const many = [...(await ruleList(1000, 300_000)), ...(await rolledUp(100_000, 60))]
  const questions = await asked(100_000)
  const done = await activities()
  const sent = await messages()
  const worthwhile = await worth()
  const machine = `${cpus().length} × ${cpus()[0]?.model.trim() ?? 'unknown'}, Node ${process.version}`
  const text = `# Performance

Made by \`npm run bench -- --keep\` on ${machine}. Ratios within one run count; figures by themselves say more about the machine than about the code.

## Finding the rules that a change starts

Three rules fire in each. *Skewed*: 80 % of the rules listen to the stage and its eight values. The ratio of a row is its cost to that of 100 rules; of the last, our rate to that engine's.

${table(matched)}

## From a change to its effects

One change moves a deal, starts a rule, makes a task and a message: 1 read, 1 update, and the rows of event, history, run, step, task and outbox, with all their indexes. Beside it the very same rows written by prepared statements into a database of the same shape.

${table(written)}

## A large file beside people's work

Through the built server (\`npm run build\` first), the file as one CSV, reads and moves one after the other every 50 ms while it is written.

${table(brought.rows)}

## Activities

Page visits of 2,000 contacts, told of a thousand at a time: each changes a score, every fifth starts a rule that makes a task.

${table(done)}

## Messages

Mails through a real SMTP server on this computer, each acknowledged as soon as it was taken.

${table(sent)}

## Results, problems and habits

Forty rules with targets, a million runs that are measured, a hundred thousand deals; asked through the built server.

${table(worthwhile)}

## The clock

A million deals with a date that a rule goes by; ten thousand of them are due at one moment.

${table(clocked)}

## Many rules, and many deals of few companies

Companies here add up what they have, and no rule goes by it: such values are worked out about once a second while a file is written.

${table(many)}

## What screens ask

Through the built server, one question after the other; *first* is the very first of its kind, before anything is in memory.

${table(questions)}

## What is worked out

Formulas beside an interpreter of the same language; values that hang on the day, roll-ups, and a formula that somebody says anew.

${table(worked)}

## How the database goes about it

What SQLite says of the statements behind the screens (\`EXPLAIN QUERY PLAN\`), with these deals in the table. Evidence looks at every record on purpose: each condition tells how many it alone lets through. Records named by a question about linked ones are found once a query, by the index on links.

${brought.plans.map(({ what, steps }) => `- **${what}**: ${steps.map(code).join(' · ')}`).join('\n')}
`
  console.log(text)
  if (args.includes('--keep')) writeFileSync('docs/performance.md', text)
}
