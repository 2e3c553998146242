import { hearersOf } from '../../core/signals/activity'
import { listensTo } from '../../core/engine/wake'
import { capital } from '../../core/language/nouns'
import { ACTIVITY_NAMES, type ActivityName } from '../../core/activities'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import { readCsv } from '../../core/formats/csv/read'
import { readInstant } from '../../core/time/dates'
import { z } from 'zod'
import { dataProblem } from '../../core/activities'
import { foldText, zValue, type Values } from '../../core/language/value'
import type { Workspace } from './workspace'
import { newChain } from './live-records'

/** What happens around records, as programs and files tell of it. */

export interface GivenHappening {
  /** The record by its number, or a contact by an email address. */
  readonly record: { readonly object: ObjectKind; readonly id: number } | { readonly email: string }
  readonly kind: ActivityName
  readonly about: string
  /** What else it tells, by the keys of its kind. */
  readonly data?: Values
  /** When it happened; now, where nothing is said. */
  readonly atMs: number | null
  /** What the sender calls it: told again, it is not kept again. */
  readonly key: string | null
}

export interface HappeningsTold {
  readonly kept: number
  /** Those whose key was there already. */
  readonly known: number
  readonly refused: readonly { readonly row: number; readonly text: string }[]
}

/** How far ahead of the clock something may be said to have happened: clocks of senders are never quite right. */
const AHEAD_MOST_MS = 5 * 60_000
const BATCH = 200

/**
 * Keeps what happened, and lets scores and rules follow. What does not fit is told by its place and never holds up the
 * others.
 */
export function tellHappenings(
  workspace: Workspace,
  given: readonly (GivenHappening & { readonly row?: number })[],
): HappeningsTold {
  const { db, store } = workspace
  let [kept, known] = [0, 0]
  const refused: { row: number; text: string }[] = []
  for (let from = 0; from < given.length; from += BATCH) {
    db.inTurn(() =>
      db.atomically(() => {
        workspace.keepUp()
        given.slice(from, from + BATCH).forEach((one, i) => {
          const row = one.row ?? from + i + 1
          const ref = recordOf(workspace, one.record)
          const nowMs = workspace.clock.nowMs()
          const wrong = dataProblem(one.kind, one.data ?? {})
          if (typeof ref === 'string') refused.push({ row, text: ref })
          else if (wrong !== null) refused.push({ row, text: wrong })
          else if (one.atMs !== null && one.atMs > nowMs + AHEAD_MOST_MS)
            refused.push({ row, text: 'The time is in the future.' })
          else {
            const id = store.happenings.add(
              {
                ref,
                kind: one.kind,
                about: one.about.trim(),
                data: one.data,
                atMs: Math.min(one.atMs ?? nowMs, nowMs),
                key: one.key,
              },
              nowMs,
            )
            if (id === null) known++
            else {
              kept++
              log(workspace, ref, { ...one, atMs: Math.min(one.atMs ?? nowMs, nowMs) }, id, nowMs)
            }
          }
        })
      }),
    )
    workspace.drain()
  }
  return { kept, known, refused }
}

/** Lets the record know of it, and those it is linked to, where rules or what waits go by such a thing. */
function log(
  workspace: Workspace,
  ref: RecordRef,
  { kind, about, data = {}, atMs }: Pick<GivenHappening, 'kind' | 'about' | 'data'> & { readonly atMs: number },
  happeningId: number,
  nowMs: number,
): void {
  const { world, store } = workspace
  const chain = newChain()
  const listens = (to: RecordRef): boolean =>
    workspace.matcher().hears(to.object, 'activity') || store.waits.of(to).some(listensTo('activity'))
  const hearers = hearersOf(
    { ref, name: workspace.nameOf(ref) },
    { kind, about: about.trim(), data, atMs, toldMs: nowMs },
    (object) => store.links.linked(ref, object).map(({ id }) => id),
    listens,
  )
  for (const { ref: to, change } of hearers)
    world.log(to, 'happened', [change], { by: 'happening', happeningId }, chain, false, nowMs)
}

function recordOf(workspace: Workspace, record: GivenHappening['record']): RecordRef | string {
  if ('id' in record)
    return workspace.store.records.read(record)
      ? { object: record.object, id: record.id }
      : `${capital(record.object)} ${record.id} does not exist.`
  const found = workspace.store.records.findBy('contact', 'email', record.email.trim().toLowerCase())
  if (found.length === 0) return `No contact with the email ${record.email.trim().slice(0, 100)}.`
  // Of several with one address the one that was there first counts, always.
  return { object: 'contact', id: found[0]?.id ?? 0 }
}

const zData = z.record(z.string(), zValue)

/** `null` for what is no JSON object of values. */
function readData(text: string): Values | null {
  if (text === '') return {}
  try {
    return zData.safeParse(JSON.parse(text)).data ?? null
  } catch {
    return null
  }
}

const COLUMNS = ['email', 'contact', 'company', 'deal', 'kind', 'about', 'data', 'at', 'key'] as const

/**
 * Reads happenings from a CSV file with a heading: email (or contact, company, deal: a number), kind, about, data (a JSON
 * object), at, key.
 */
export function readHappenings(
  workspace: Workspace,
  text: string,
): {
  readonly given: readonly (GivenHappening & { readonly row: number })[]
  readonly refused: readonly { readonly row: number; readonly text: string }[]
} {
  const { headings, rows, problem } = readCsv(text)
  if (problem !== null) return { given: [], refused: [{ row: 1, text: problem }] }
  const at = Object.fromEntries(
    COLUMNS.map((column) => [column, headings.findIndex((one) => foldText(one) === column)]),
  ) as Record<(typeof COLUMNS)[number], number>
  if (at.kind < 0 || [at.email, at.contact, at.company, at.deal].every((column) => column < 0))
    return {
      given: [],
      refused: [{ row: 1, text: 'The file needs a column “kind” and one of “email”, “contact”, “company”, “deal”.' }],
    }
  const given: (GivenHappening & { row: number })[] = []
  const refused: { row: number; text: string }[] = []
  for (const { row, cells, broken } of rows) {
    const cell = (column: (typeof COLUMNS)[number]): string => (at[column] < 0 ? '' : (cells[at[column]] ?? '').trim())
    const kind = ACTIVITY_NAMES.find((one) => foldText(one) === foldText(cell('kind')))
    const data = readData(cell('data'))
    const object = (['contact', 'company', 'deal'] as const).find((one) => cell(one) !== '')
    const atMs = cell('at') === '' ? null : readInstant(cell('at'), workspace.catalogue().workspace.zone, 'dayFirst')
    if (broken !== null) refused.push({ row, text: broken })
    else if (!kind)
      refused.push({ row, text: `“${cell('kind').slice(0, 40)}” is not one of ${ACTIVITY_NAMES.join(', ')}.` })
    else if (!object && cell('email') === '') refused.push({ row, text: 'No record given.' })
    else if (object && !/^\d{1,15}$/.test(cell(object)))
      refused.push({ row, text: `“${cell(object).slice(0, 40)}” is not a ${object} number.` })
    else if (data === null)
      refused.push({ row, text: `“${cell('data').slice(0, 40)}” is not a JSON object of values.` })
    else if (atMs === null && cell('at') !== '')
      refused.push({ row, text: `“${cell('at').slice(0, 40)}” is not a date and time.` })
    else
      given.push({
        row,
        record: object ? { object, id: Number(cell(object)) } : { email: cell('email') },
        kind,
        about: cell('about').slice(0, 500),
        data,
        atMs,
        key: cell('key') === '' ? null : cell('key').slice(0, 200),
      })
  }
  return { given, refused }
}
