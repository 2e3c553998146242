import { csvOf } from '../../core/formats/csv/table'
import type { RuleResults } from './results'

const round = (n: number): number => Math.round(n * 10_000) / 10_000

/** Every figure of a rule, one a line. */
export function resultsCsv(results: RuleResults): string {
  const { runs, runsBy, goal, tasks, messages, calls } = results
  const rows: (string | number | null)[][] = []
  const add = (section: string, by: string, value: string, figure: string, n: number | null): void =>
    void rows.push([results.name, section, by, value, figure, n === null ? null : round(n)])
  for (const [name, n] of Object.entries(runs)) add('Runs', '', '', name, n)
  for (const [by, lines] of Object.entries(runsBy))
    for (const { label, counts } of lines) add('Runs', by, label, 'runs', counts.runs ?? 0)
  if (goal) {
    const share = (by: string, value: string, of: string, { reached, of: n, interval }: typeof goal.done): void => {
      add('Target', by, value, `${of}records`, n)
      add('Target', by, value, `${of}reached`, reached)
      add('Target', by, value, `${of}share`, n === 0 ? null : reached / n)
      add('Target', by, value, `${of}low`, interval.low)
      add('Target', by, value, `${of}high`, interval.high)
    }
    share('', '', '', goal.done)
    if (goal.alone) share('', '', 'left alone, ', goal.alone)
    if (goal.difference) {
      add('Target', '', '', 'difference', goal.difference.points)
      add('Target', '', '', 'difference low', goal.difference.low)
      add('Target', '', '', 'difference high', goal.difference.high)
    }
    add('Target', '', '', 'within their time', goal.within.of)
    add('Target', '', '', 'met it before', goal.already)
    for (const { day, done, alone } of goal.curve) {
      add('Target', 'days', String(day), 'share', done)
      if (alone !== null) add('Target', 'days', String(day), 'left alone, share', alone)
    }
    for (const { by, lines } of goal.by) for (const line of lines) share(by, line.label, '', line)
  }
  const { byOwner, ...taskFigures } = tasks
  for (const [name, n] of Object.entries(taskFigures)) add('Tasks', '', '', name, n)
  for (const { label, counts } of byOwner)
    for (const [name, n] of Object.entries(counts)) add('Tasks', 'owner', label, name, n)
  const { kinds, byLabel, byTemplate, ...messageFigures } = messages
  for (const [name, n] of Object.entries(messageFigures)) add('Messages', '', '', name, n)
  for (const { label, count } of kinds) add('Messages', 'answer', label, 'answers', count)
  for (const [by, lines] of [
    ['label', byLabel],
    ['template', byTemplate],
  ] as const)
    for (const { label, counts } of lines)
      for (const [name, n] of Object.entries(counts)) add('Messages', by, label, name, n)
  for (const { label, count } of calls) add('Calls', 'outcome', label, 'calls', count)
  return csvOf(['Rule', 'Section', 'By', 'Value', 'Figure', 'Number'], rows)
}
