import type { RecordRef } from '../../core/records/kinds'
import { sayValue } from '../../core/fields/say-value'
import { isEmpty } from '../../core/language/value'
import type { Workspace } from '../engine/workspace'

/** Everything that is kept of one person, for whoever asks what that is. */

const ALL = 1_000_000

export interface Everything {
  readonly contact: RecordRef
  readonly values: Readonly<Record<string, string>>
  readonly links: readonly object[]
  readonly activities: readonly object[]
  readonly messages: readonly object[]
  readonly visitors: readonly object[]
  readonly tasks: readonly object[]
  readonly runs: readonly object[]
  readonly changes: readonly object[]
}

const iso = (atMs: number): string => new Date(atMs).toISOString()

/** Values as people read them, links, activities, tasks, runs and changes of a contact. */
export function everythingOf(workspace: Workspace, ref: RecordRef): Everything {
  const { store } = workspace
  const record = store.records.read(ref)
  const catalogue = workspace.catalogue()
  const fields = catalogue.fields(ref.object).flatMap((field): [string, string][] => {
    const value = record?.values[field.key]
    return isEmpty(value) ? [] : [[field.label, sayValue(value, field, catalogue, record?.values)]]
  })
  return {
    contact: ref,
    values: Object.fromEntries(fields),
    links: store.links.of(ref).map(({ from, to, role }) => {
      const other = from.object === ref.object && from.id === ref.id ? to : from
      return { record: `${other.object} ${other.id}`, name: workspace.nameOf(other), role }
    }),
    activities: store.activities.of(ref).map(({ kind, about, data, atMs }) => ({
      at: iso(atMs),
      kind,
      about,
      ...(Object.keys(data).length ? { data } : {}),
    })),
    messages: store.messages.ofContactPage(ref.id, Number.MAX_SAFE_INTEGER, ALL).map((one) => ({
      at: iso(one.atMs),
      way: one.way,
      channel: one.channel,
      address: one.address,
      subject: one.subject,
      text: one.text,
      ...(one.kind === null ? {} : { kind: one.kind }),
    })),
    visitors: store.visitors.ofContact(ref.id).map(({ key, seenAt }) => ({ key, lastSeen: iso(seenAt) })),
    tasks: store.tasks
      .ofRecord(ref)
      .map(({ title, notes, due, state, createdAt }) => ({ at: iso(createdAt), title, notes, due, state })),
    runs: store.runs
      .list({ object: ref.object, recordId: ref.id, limit: ALL })
      .map(({ id, because, state, startedAt }) => ({ at: iso(startedAt), run: id, because, state })),
    changes: store.events
      .ofRecord(ref, ALL)
      .filter(({ kind }) => kind !== 'happened')
      .map(({ atMs, kind, changes }) => ({
        at: iso(atMs),
        kind,
        changes: changes.map(({ field, old, new: now }) => ({ field, old, new: now })),
      })),
  }
}
