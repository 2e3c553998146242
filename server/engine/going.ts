import { count } from '../../core/language/counts'
import { FIELD_TYPES } from '../../core/fields/types'
import { PLAIN_STYLE } from '../../core/fields/kind'
import { isEmpty, sameValue, type Value } from '../../core/language/value'
import { mergedValues, mergeFields } from '../../core/records/merge'
import { sameRef, type RecordRef } from '../../core/records/kinds'
import type { ChainPlace, ChangeEvent, Link, RecordSnapshot } from '../../core/records/record'
import type { RunReport } from '../../core/engine/handle-event'
import type { GoneRow } from '../store/gone'
import { RefusedError, type Workspace } from './workspace'
import { newChain } from './live-records'
import { refuse } from './refuse'

/** Records that go: deleted, or merged into another one; and how they come back. */

function keep(
  workspace: Workspace,
  record: RecordSnapshot,
  links: readonly Link[],
  event: ChangeEvent,
  personId: string,
  merged: Pick<GoneRow, 'intoId' | 'intoSeq' | 'linksGiven' | 'tasksGiven'> & Partial<Pick<GoneRow, 'activitiesGiven'>>,
): void {
  const { records, gone } = workspace.store
  const { object, id, version, values } = record
  const held = Object.fromEntries(
    workspace
      .catalogue()
      .data.fields.filter((field) => field.object === object)
      .flatMap((field): [string, Value][] => {
        const value = values[field.key] ?? null
        return value === null ? [] : [[String(field.id), value]]
      }),
  )
  const nowMs = workspace.clock.nowMs()
  gone.add({
    activitiesGiven: [],
    object,
    id,
    version,
    held,
    links,
    personId,
    name: String(values.name ?? ''),
    createdAt: records.times(record)?.createdAt ?? nowMs,
    atMs: nowMs,
    seq: event.seq,
    ...merged,
  })
  records.remove(record)
  workspace.world.forget(record)
}

const otherEnds = (ref: RecordRef, links: readonly Link[]): readonly RecordRef[] =>
  links.map(({ from, to }) => (sameRef(from, ref) ? to : from))

/**
 * Takes a record out and keeps what brings it back; answers every record that is touched, none when it is not there.
 * The caller has the transaction.
 */
function takeOut(
  workspace: Workspace,
  ref: RecordRef,
  personId: string,
  chain: ChainPlace,
  rulesOff: boolean,
): readonly RecordRef[] {
  const { store, world } = workspace
  const record = store.records.read(ref)
  if (!record) return []
  const links = store.links.take(ref)
  for (const { from, to } of links) if (!sameRef(from, ref)) store.links.mend(from, to.object)
  const changes = Object.entries(record.values).flatMap(([field, value]) =>
    isEmpty(value) ? [] : [{ field, old: value, new: null }],
  )
  const event = world.log(ref, 'deleted', changes, { by: 'person', personId }, chain, rulesOff, workspace.clock.nowMs())
  keep(workspace, record, links, event, personId, { intoId: null, intoSeq: null, linksGiven: [], tasksGiven: [] })
  world.linksChanged(otherEnds(ref, links), { by: 'person', personId }, chain, rulesOff)
  return [ref, ...links.map(({ from, to }) => (sameRef(from, ref) ? to : from))]
}

/**
 * Deletes a record that a rule made, when the run is taken back: no rule hears of it. The caller has the transaction.
 */
export const deleteQuietly = (
  workspace: Workspace,
  ref: RecordRef,
  personId: string,
  chain: ChainPlace,
): readonly RecordRef[] => takeOut(workspace, ref, personId, chain, true)

/** Deletes a record. Its history, runs and tasks stay, and it can be brought back. Rules that wait for this run. */
export function deleteRecord(workspace: Workspace, ref: RecordRef, personId: string): readonly RunReport[] {
  workspace.db.together(() => {
    const touched = takeOut(workspace, ref, personId, newChain(), false)
    if (touched.length === 0) throw refuse('id', { code: 'recordGone', object: ref.object, id: ref.id })
    workspace.live.tell({ about: 'records', refs: touched })
  })
  return workspace.drain()
}

/**
 * Makes one record of two of a kind: the other one's links and tasks are the kept one's from now on, its values fill
 * what the kept one lacks and replace what `take` names, and its history is told with the kept one's.
 */
export function mergeRecords(
  workspace: Workspace,
  kept: RecordRef,
  otherId: number,
  take: readonly string[],
  personId: string,
): { readonly reports: readonly RunReport[] } {
  const { db, store, world } = workspace
  const other: RecordRef = { object: kept.object, id: otherId }
  if (kept.id === otherId) throw refuse('other', { code: 'mergeItself' })
  const cause = { by: 'person', personId } as const
  db.together(() => {
    const [mine, theirs] = [store.records.read(kept), store.records.read(other)]
    if (!mine || !theirs)
      throw refuse(mine ? 'other' : 'id', {
        code: 'recordGone',
        object: kept.object,
        id: mine ? otherId : kept.id,
      })
    const fields = mergeFields(kept.object, mine.values, theirs.values, workspace.catalogue())
    const unknown = take.find((key) => !fields.some((field) => field.key === key))
    if (unknown !== undefined) throw refuse('take', { code: 'mergeSame', field: unknown })
    const chain = newChain()
    const written = world.write(kept, mergedValues(fields, new Set(take)), cause, chain)
    if (!written.ok) throw new RefusedError(written.problems)
    const nowMs = workspace.clock.nowMs()
    const links = store.links.take(other)
    // Main ones first, so that a kept record that has none of a kind gets the other one's main one.
    const moved = [...links]
      .sort((a, b) => Number(b.main) - Number(a.main))
      .map((link): Link => {
        if (sameRef(link.from, other)) return { ...link, from: kept, main: false }
        return { ...link, to: kept }
      })
    const linksGiven = moved.filter((link) => store.links.put(link, nowMs))
    for (const { from, to } of linksGiven) store.links.log('linked', from, to, cause, nowMs)
    const tasksGiven = store.tasks.moveTo(other, kept)
    if (kept.object === 'contact') store.visitors.give(other.id, kept.id)
    const happened = store.activities.moveTo(other, kept)
    const event = world.log(other, 'merged', [], cause, chain, true, nowMs)
    keep(workspace, theirs, links, event, personId, {
      intoId: kept.id,
      intoSeq: written.event?.seq ?? null,
      linksGiven,
      tasksGiven,
      activitiesGiven: happened,
    })
    if (happened.length > 0) world.log(kept, 'happened', [], cause, chain, true, nowMs)
    world.linksChanged([kept, ...otherEnds(other, links)], cause, chain, true)
    workspace.live.tell({
      about: 'records',
      refs: [kept, other, ...moved.map((link) => (sameRef(link.from, kept) ? link.to : link.from))],
    })
    workspace.live.tell({ about: 'tasks', people: [] })
  })
  return { reports: workspace.drain() }
}

/** What bringing a record back could not put as it was, in words. */
export interface Restored {
  readonly ref: RecordRef
  readonly stayed: readonly string[]
}

/**
 * Brings a record back under its number. After a merge, links and tasks go back to it, and what the kept record got
 * from it is taken back where nobody has written on it since.
 */
export function restoreRecord(workspace: Workspace, ref: RecordRef, personId: string): Restored {
  const { db, store, world } = workspace
  const cause = { by: 'person', personId } as const
  const stayed: string[] = []
  db.together(() => {
    const row = store.gone.get(ref)
    if (!row) throw refuse('id', { code: 'wasNotDeleted', object: ref.object, id: ref.id })
    const into: RecordRef | null = row.intoId === null ? null : { object: ref.object, id: row.intoId }
    if (into && !store.records.read(into)) throw refuse('id', { code: 'restoreFirst', record: workspace.nameOf(into) })
    const nowMs = workspace.clock.nowMs()
    store.gone.remove(ref)
    store.records.putBack(ref, row.version + 1, valuesBack(workspace, row, stayed), row.createdAt, nowMs)
    world.forget(ref)
    if (into) takeBack(workspace, row, into, personId, stayed)
    for (const link of row.links) {
      const end = sameRef(link.from, ref) ? link.to : link.from
      if (!store.records.read(end)) stayed.push(`the link to ${workspace.nameOf(end)} (deleted)`)
      else if (store.links.put(link, nowMs)) store.links.log('linked', link.from, link.to, cause, nowMs)
    }
    if (into && row.activitiesGiven.length > 0) {
      store.activities.moveBack(into, ref, row.activitiesGiven)
      world.log(into, 'happened', [], cause, newChain(), true, nowMs)
    }
    world.log(ref, 'restored', [], cause, newChain(), true, nowMs)
    world.linksChanged([...(into ? [into] : []), ...otherEnds(ref, row.links)], cause, newChain(), true)
    const touched = new Map(
      [ref, ...(into ? [into] : []), ...row.links.map((link) => (sameRef(link.from, ref) ? link.to : link.from))].map(
        (one) => [`${one.object} ${one.id}`, one],
      ),
    )
    workspace.live.tell({ about: 'records', refs: [...touched.values()] })
    workspace.live.tell({ about: 'tasks', people: [] })
  })
  workspace.drain()
  return { ref, stayed }
}

/** The values a record had, as far as the fields of today can hold them. */
function valuesBack(workspace: Workspace, row: GoneRow, stayed: string[]): Readonly<Record<string, Value>> {
  const catalogue = workspace.catalogue()
  const values: Record<string, Value> = {}
  for (const field of catalogue.data.fields.filter((one) => one.object === row.object)) {
    const held = row.held[String(field.id)] ?? null
    if (held === null) continue
    const read = field.keptBy
      ? null
      : FIELD_TYPES[field.type].accept(held, { catalogue, field, style: PLAIN_STYLE, pipelineId: null })
    if (read && !read.ok) stayed.push(`${field.label} (the old value no longer fits)`)
    else values[field.key] = held
  }
  const stage = row.object === 'deal' && values.stage === undefined ? catalogue.data.pipelines[0]?.stages[0] : undefined
  // Its stage is no longer there, and every deal is somewhere.
  return stage
    ? { ...values, stage: stage.id, pipeline: stage.pipelineId, stageSince: workspace.clock.nowMs() }
    : values
}

function takeBack(workspace: Workspace, row: GoneRow, into: RecordRef, personId: string, stayed: string[]): void {
  const { store, world } = workspace
  const { object, id } = row
  for (const { from, to } of row.linksGiven) store.links.remove(from, to)
  const back = store.tasks.moveTo(into, { object, id }, row.tasksGiven)
  if (back.length < row.tasksGiven.length)
    stayed.push(`${count(row.tasksGiven.length - back.length, 'task')} (now on another record)`)
  const event = row.intoSeq === null ? null : store.events.get(row.intoSeq)
  const catalogue = workspace.catalogue()
  const writers = store.events.lastWriters(into)
  const values = store.records.read(into)?.values ?? {}
  const undo: Record<string, Value> = {}
  for (const change of event?.changes ?? []) {
    const field = catalogue.field(object, change.field)
    if (!field || field.keptBy) continue
    if (writers.get(field.id) === row.intoSeq && sameValue(values[change.field] ?? null, change.new))
      undo[change.field] = change.old
    else stayed.push(`${field.label} of ${workspace.nameOf(into)} (changed since)`)
  }
  const written = world.write(into, undo, { by: 'person', personId }, newChain(), true)
  if (!written.ok) stayed.push(...written.problems.map(({ path }) => `${path} of ${workspace.nameOf(into)}`))
}
