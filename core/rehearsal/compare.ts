import { sayInstant } from '../time/say'
import type { RecordRef } from '../records/kinds'
import type { RehearsalResult, RehearsedRun } from './result'

/** Two rehearsals on the same records and the same time, beside each other. */

export interface ComparedRecord {
  readonly ref: RecordRef
  readonly recordName: string
  readonly how: 'left' | 'right' | 'different'
  /** What happens to it by the one and by the other, in words. */
  readonly left: readonly string[]
  readonly right: readonly string[]
}

export interface Compared {
  readonly same: number
  readonly onlyLeft: number
  readonly onlyRight: number
  readonly different: number
  /** Those that differ, the first of them. */
  readonly records: readonly ComparedRecord[]
}

const SHOWN_MOST = 300

/** What happens to a record, in order: when, and what. */
function waysOf(
  { runs }: RehearsalResult,
  zone: string,
): ReadonlyMap<string, { readonly run: RehearsedRun; readonly ways: string[] }> {
  const found = new Map<string, { readonly run: RehearsedRun; readonly ways: string[] }>()
  for (const run of runs) {
    const key = `${run.ref.object} ${run.ref.id}`
    const own = found.get(key) ?? { run, ways: [] }
    found.set(key, own)
    for (const step of run.steps) own.ways.push(`${sayInstant(step.atMs, zone)}: ${step.say}`)
    if (run.stop !== null) own.ways.push(`${run.state}: ${run.stop}`)
  }
  return found
}

/** Which records go the same way by both, which by one alone, and which another way. */
export function compareResults(left: RehearsalResult, right: RehearsalResult, zone: string): Compared {
  const [a, b] = [waysOf(left, zone), waysOf(right, zone)]
  let [same, onlyLeft, onlyRight, different] = [0, 0, 0, 0]
  const records: ComparedRecord[] = []
  for (const key of new Set([...a.keys(), ...b.keys()])) {
    const [one, other] = [a.get(key), b.get(key)]
    const run = one?.run ?? other?.run
    if (!run) continue
    if (one && other && JSON.stringify(one.ways) === JSON.stringify(other.ways)) {
      same++
      continue
    }
    if (!other) onlyLeft++
    else if (!one) onlyRight++
    else different++
    if (records.length < SHOWN_MOST)
      records.push({
        ref: run.ref,
        recordName: run.recordName,
        how: !other ? 'left' : !one ? 'right' : 'different',
        left: one?.ways ?? [],
        right: other?.ways ?? [],
      })
  }
  return { same, onlyLeft, onlyRight, different, records }
}
