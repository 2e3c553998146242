import { sayProblem } from '../../core/language/problems'
import { sayRefusal } from '../../core/language/refusals'
import type { ActivityName } from '../../core/activities'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import { readCsv } from '../../core/formats/csv/read'
import { readInstant } from '../../core/time/dates'
import { z } from 'zod'
import { dataProblem } from '../../core/activities/data'
import { foldText, zValue, type Values } from '../../core/language/value'
import type { Workspace } from './workspace'
import { becomeKnown } from './activity-log'
import type { Happened } from './live-world'

/** What happens around records, as programs and files tell of it. */

export interface GivenActivity {
  /** The record by its number, a contact by an email address, or a visitor of the website, who may say who they are. */
  readonly record:
    | { readonly object: ObjectKind; readonly id: number }
    | { readonly email: string; readonly visitor?: undefined }
    | { readonly visitor: string; readonly email?: string | undefined }
  readonly kind: ActivityName
  readonly about: string
  /** What else it tells, by the keys of its kind. */
  readonly data?: Values
  /** When it happened; now, where nothing is said. */
  readonly atMs: number | null
  /** What the sender calls it: told again, it is not kept again. */
  readonly key: string | null
}

export interface ActivitiesTold {
  readonly kept: number
  /** Those whose key was there already. */
  readonly known: number
  /** Those of people whom nobody knows yet; kept until somebody does. */
  readonly unknown: number
  readonly refused: readonly { readonly row: number; readonly text: string }[]
}

/** How far ahead of the clock something may be said to have happened: clocks of senders are never quite right. */
const AHEAD_MOST_MS = 5 * 60_000
const BATCH = 200
const MAIL = z.email()

/**
 * Keeps what happened, and lets scores and rules follow. What does not fit is told by its place and never holds up the
 * others. What somebody did of whom nobody knows yet who they are is kept until they are known.
 */
export function tellActivities(
  workspace: Workspace,
  given: readonly (GivenActivity & { readonly row?: number })[],
): ActivitiesTold {
  const { db, store } = workspace
  const told = { kept: 0, known: 0, unknown: 0 }
  const refused: { row: number; text: string }[] = []
  for (let from = 0; from < given.length; from += BATCH) {
    db.inTurn(() =>
      db.atomically(() => {
        workspace.keepUp()
        given.slice(from, from + BATCH).forEach((one, i) => {
          const row = one.row ?? from + i + 1
          const nowMs = workspace.clock.nowMs()
          const wrong = problemOf(workspace, one, nowMs)
          if (wrong !== null) return void refused.push({ row, text: wrong })
          const happened: Happened = { ...one, data: one.data ?? {}, atMs: Math.min(one.atMs ?? nowMs, nowMs) }
          const who = whoDid(workspace, one.record, happened.atMs)
          if ('visitor' in who) {
            const isNew =
              (one.key === null || !store.activities.hasKey(one.key)) &&
              store.visitors.keep({ ...happened, about: one.about.trim(), visitor: who.visitor }, nowMs)
            told[isNew ? 'unknown' : 'known']++
          } else if (one.key !== null && store.visitors.hasKey(one.key)) told.known++
          else told[workspace.world.keepActivity(who, happened) ? 'kept' : 'known']++
        })
      }),
    )
    workspace.drain()
  }
  return { ...told, refused }
}

function problemOf(workspace: Workspace, { record, kind, data, atMs }: GivenActivity, nowMs: number): string | null {
  if ('id' in record && !workspace.store.records.read(record)) return sayRefusal({ code: 'recordGone', ...record })
  if ('email' in record && record.email !== undefined && !MAIL.safeParse(record.email.trim()).success)
    return sayProblem({ code: 'notAnEmail', raw: record.email })
  if (atMs !== null && atMs > nowMs + AHEAD_MOST_MS) return sayRefusal({ code: 'activityAhead' })
  const told = workspace.catalogue().activities.get(kind)
  return told ? dataProblem(told, data ?? {}) : sayRefusal({ code: 'noActivity', name: kind })
}

/** The contact with an address; of several the one that was there first, always. */
const contactWith = (workspace: Workspace, email: string): number | null =>
  workspace.store.records.findBy('contact', 'email', email.trim().toLowerCase())[0]?.id ?? null

/**
 * Whose it is: a record's, or of a visitor whom nobody knows yet. Somebody who says who they are is known from then on.
 */
function whoDid(
  workspace: Workspace,
  record: GivenActivity['record'],
  atMs: number,
): RecordRef | { readonly visitor: string } {
  if ('id' in record) return { object: record.object, id: record.id }
  const { visitors, gone } = workspace.store
  const email = record.email?.trim().toLowerCase() ?? null
  const contactId = email === null ? null : contactWith(workspace, email)
  // Who is told of by an address alone is one visitor, whoever tells of them.
  const visitor = record.visitor ?? `mailto:${email ?? ''}`
  if (record.visitor === undefined && contactId !== null) return { object: 'contact', id: contactId }
  visitors.seen(visitor, atMs)
  if (contactId !== null) {
    becomeKnown(workspace, visitor, contactId)
    return { object: 'contact', id: contactId }
  }
  if (email !== null) visitors.name(visitor, { email })
  const known = visitors.get(visitor)?.contactId ?? null
  if (known === null) return { visitor }
  const ref: RecordRef = { object: 'contact', id: known }
  if (workspace.store.records.read(ref)) return ref
  const into = gone.get(ref)?.intoId ?? null
  return into === null ? { visitor } : { object: 'contact', id: into }
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
 * Reads activities from a CSV file with a heading: email (or contact, company, deal: a number), kind, about, data (a
 * JSON object), at, key.
 */
export function readActivities(
  workspace: Workspace,
  text: string,
): {
  readonly given: readonly (GivenActivity & { readonly row: number })[]
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
      refused: [{ row: 1, text: sayRefusal({ code: 'activityColumns' }) }],
    }
  const kinds = workspace.catalogue().activities.names
  const given: (GivenActivity & { row: number })[] = []
  const refused: { row: number; text: string }[] = []
  for (const { row, cells, broken } of rows) {
    const cell = (column: (typeof COLUMNS)[number]): string => (at[column] < 0 ? '' : (cells[at[column]] ?? '').trim())
    const kind = kinds.find((one) => foldText(one) === foldText(cell('kind')))
    const data = readData(cell('data'))
    const object = (['contact', 'company', 'deal'] as const).find((one) => cell(one) !== '')
    const atMs = cell('at') === '' ? null : readInstant(cell('at'), workspace.catalogue().workspace.zone, 'dayFirst')
    if (broken !== null) refused.push({ row, text: broken })
    else if (!kind)
      refused.push({ row, text: sayRefusal({ code: 'activityKind', raw: cell('kind').slice(0, 40), kinds }) })
    else if (!object && cell('email') === '') refused.push({ row, text: sayRefusal({ code: 'activityOfNone' }) })
    else if (object && !/^\d{1,15}$/.test(cell(object)))
      refused.push({ row, text: sayRefusal({ code: 'notNumberOf', object, raw: cell(object).slice(0, 40) }) })
    else if (data === null)
      refused.push({ row, text: sayRefusal({ code: 'notValues', raw: cell('data').slice(0, 40) }) })
    else if (atMs === null && cell('at') !== '')
      refused.push({ row, text: sayProblem({ code: 'notAnInstant', raw: cell('at') }) })
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
