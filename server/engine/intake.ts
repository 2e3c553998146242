import { createHash, timingSafeEqual } from 'node:crypto'
import { Webhook } from 'standardwebhooks'
import { PLAIN_STYLE } from '../../core/fields/kind'
import { FIELD_TYPES } from '../../core/fields/types'
import { isEmpty, type Value, type Values } from '../../core/language/value'
import { sayProblem } from '../../core/language/problems'
import { matchForm } from '../../core/linking/link-by'
import type { ByHandParams } from '../../core/rules/triggers/by-hand'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import { atPath } from '../../core/web/json'
import type { Into } from '../../core/web/intake'
import type { IntakeRow } from '../store/intakes'
import { newChain } from './live-records'
import { tellActivities } from './activities'
import { answersTo, startByHand } from './start-by-hand'
import { RefusedError, type Workspace } from './workspace'
import { refuse } from './refuse'

/** Requests from services outside: checked, kept, and made into what their address is for. */

export interface Came {
  readonly headers: Readonly<Record<string, string | undefined>>
  readonly body: string
}

export type Received =
  | { readonly is: 'taken' | 'known'; readonly says: string }
  | { readonly is: 'refused'; readonly status: 401 | 422; readonly because: string }

/** Why a request is not believed; `null` when it is. */
function disbelieved(secret: string | null, { verify }: IntakeRow, { headers, body }: Came): string | null {
  if (secret === null) return 'this address has no secret'
  if (verify === 'signature') {
    try {
      new Webhook(secret).verify(body, headers as Record<string, string>)
      return null
    } catch {
      return 'the signature does not fit'
    }
  }
  const given = /^Bearer (\S{1,200})$/i.exec(headers.authorization ?? '')?.[1] ?? ''
  const [a, b] = [given, secret].map((text) => createHash('sha256').update(text).digest())
  return a && b && timingSafeEqual(a, b) ? null : 'the secret does not fit'
}

/** What a request is known by: its own id, else all of it. */
const keyOf = ({ headers, body }: Came): string =>
  (headers['webhook-id'] ?? headers['idempotency-key'] ?? createHash('sha256').update(body).digest('hex')).slice(0, 200)

/** Takes a request in. The same one twice is taken once; what is refused is kept with the reason. */
export function takeIn(workspace: Workspace, intake: IntakeRow, came: Came): Received {
  const { store, db, clock } = workspace
  const decline = (status: 401 | 422, because: string): Received => {
    db.inTurn(() =>
      store.intakes.keep(intake.id, null, came.body, { state: 'refused', says: because, ref: null }, clock.nowMs()),
    )
    workspace.live.tell({ about: 'sent' })
    return { is: 'refused', status, because }
  }
  const wrong = disbelieved(store.intakes.secret(intake.id), intake, came)
  if (wrong !== null) return decline(401, wrong)
  const key = keyOf(came)
  if (store.intakes.has(intake.id, key)) return { is: 'known', says: 'it was taken before' }
  let json: unknown
  try {
    json = JSON.parse(came.body)
  } catch {
    return decline(422, 'the body is no JSON')
  }
  try {
    const made = db.inTurn(() =>
      db.atomically(() => {
        const done = makeOf(workspace, intake, json, key)
        store.intakes.keep(intake.id, key, came.body, { state: 'taken', ...done }, clock.nowMs())
        return done
      }),
    )
    workspace.live.tell({ about: 'sent' })
    if (made.ref) workspace.live.tell({ about: 'records', refs: [made.ref] })
    return { is: 'taken', says: made.says }
  } catch (error) {
    if (!(error instanceof RefusedError)) throw error
    return decline(422, error.problems.map(({ path, problem }) => `${path}: ${sayProblem(problem)}`).join('; '))
  }
}

interface Made {
  readonly says: string
  readonly ref: RecordRef | null
}

function makeOf(workspace: Workspace, intake: IntakeRow, json: unknown, key: string): Made {
  const { into, personId } = intake
  switch (into.to) {
    case 'record':
      return writeRecord(workspace, into, json, intake)
    case 'activity': {
      const email = String(atPath(json, into.email) ?? '')
      const data = Object.fromEntries(into.data.map((pair): [string, Value] => [pair.key, atPath(json, pair.path)]))
      const filled = Object.fromEntries(Object.entries(data).filter(([, value]) => !isEmpty(value)))
      const about = into.about === '' ? '' : String(atPath(json, into.about) ?? '')
      const told = tellActivities(workspace, [
        { record: { email }, kind: into.kind, about, data: filled, atMs: null, key: `in-${intake.id}-${key}` },
      ])
      const [no] = told.refused
      if (no) throw refuse('activity', { code: 'activityRefused', said: no.text })
      return { says: told.unknown > 0 ? `kept until someone is known by ${email}` : `activity of ${email}`, ref: null }
    }
    case 'rule': {
      const value = atPath(json, into.path)
      const ref = value === null ? null : found(workspace, into.object, into.match, value)
      if (!ref) throw refuse(into.match, { code: 'noneHas', object: into.object, value: String(value) })
      const rule = workspace
        .activeRules()
        .find((one) => one.ruleId === into.rule && one.document.object === into.object)
      const button = rule?.document.triggers.find(({ kind }) => kind === 'byHand')
      if (!button) throw refuse('rule', { code: 'ruleNotOn' })
      const given = Object.fromEntries(into.answers.map((pair): [string, Value] => [pair.key, atPath(json, pair.path)]))
      const answers = answersTo(workspace, button.params as ByHandParams, given, into.object)
      const { text } = startByHand(workspace, ref, { ruleId: into.rule, triggerId: button.id, answers }, personId)
      return { says: text === '' ? 'the rule ran' : text, ref }
    }
  }
}

/** The record whose field holds a value; the oldest, where there are several. */
function found(workspace: Workspace, object: ObjectKind, key: string, value: Value): RecordRef | null {
  const field = workspace.catalogue().field(object, key)
  if (!field) throw refuse(key, { code: 'fieldGone' })
  const form = matchForm(value, field, 'whole', workspace.catalogue())
  const [first] = form === null ? [] : workspace.world.alike(object, key, 'whole', form)
  return first ? { object, id: first.id } : null
}

function writeRecord(
  workspace: Workspace,
  { object, match, fields }: Extract<Into, { readonly to: 'record' }>,
  json: unknown,
  { personId, name }: IntakeRow,
): Made {
  const catalogue = workspace.catalogue()
  const values: Record<string, Value> = {}
  const problems = fields.flatMap(({ key, path }) => {
    const field = catalogue.field(object, key)
    if (!field) return [{ path: key, problem: { code: 'unknownField' as const, field: key } }]
    const raw = atPath(json, path)
    const read = FIELD_TYPES[field.type].accept(raw, { catalogue, field, style: PLAIN_STYLE, pipelineId: null })
    if (!read.ok) return [{ path: key, problem: read.problem }]
    // What the request does not have says nothing about the record.
    if (!isEmpty(read.value)) values[key] = read.value
    return []
  })
  if (problems.length > 0) throw new RefusedError(problems)
  const by = values[match] ?? null
  const there = isEmpty(by) ? null : found(workspace, object, match, by)
  const cause = { by: 'person' as const, personId, key: name }
  if (there) {
    const written = workspace.world.write(there, values, cause, newChain())
    if (!written.ok) throw new RefusedError(written.problems)
    workspace.drain()
    return {
      says: written.event ? `changed ${workspace.nameOf(there)}` : `nothing new for ${workspace.nameOf(there)}`,
      ref: there,
    }
  }
  const ref = workspace.createBy(object, values as Values, [], cause)
  workspace.drain()
  return { says: `created ${workspace.nameOf(ref)}`, ref }
}
