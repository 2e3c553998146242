import type { Cause } from '../../core/records/record'
import type { Scope } from '../../core/access/scope'
import type { RecordRef } from '../../core/records/kinds'
import { seesRef } from '../engine/seen'
import type { Workspace } from '../engine/workspace'

/** Who or what did something, ready to be shown and followed. */
export interface Doer {
  readonly by: 'person' | 'import' | 'rule' | 'clock' | 'derived' | 'activity'
  readonly name: string
  readonly ruleId: number | null
  readonly runId: number | null
  readonly importId: number | null
}

/** Names rules by their newest name, and records that may be seen; looks each rule up once for its life. */
export function doerTeller(workspace: Workspace, scope: Scope = null): (cause: Cause) => Doer {
  const names = new Map<number, string>()
  const ruleName = (id: number): string => {
    const known = names.get(id)
    if (known !== undefined) return known
    const name = workspace.store.rules.get(id)?.draft.name ?? `rule ${id}`
    names.set(id, name)
    return name
  }
  const of = (ref: RecordRef): string => (seesRef(workspace, scope, ref) ? workspace.nameOf(ref) : 'recalculation')
  const nobody = { ruleId: null, runId: null, importId: null }
  return (cause) => {
    const person =
      cause.by !== 'person' && cause.by !== 'import'
        ? null
        : (workspace.catalogue().person(cause.personId)?.name ?? cause.personId)
    const key = 'key' in cause && cause.key ? `, API key “${cause.key}”` : ''
    switch (cause.by) {
      case 'person':
        return { ...nobody, by: 'person', name: `${person ?? ''}${key}` }
      case 'import':
        return { ...nobody, by: 'import', name: `import by ${person}${key}`, importId: cause.importId }
      case 'clock':
        return { ...nobody, by: 'clock', name: 'schedule', ruleId: cause.starts.ruleId }
      case 'derived':
        return {
          ...nobody,
          by: 'derived',
          name: cause.of === null ? 'daily recalculation' : of({ object: cause.of[0], id: cause.of[1] }),
        }
      case 'activity':
        return { ...nobody, by: 'activity', name: 'customer activity' }
      case 'rule':
        return { ...nobody, by: 'rule', name: ruleName(cause.ruleId), ruleId: cause.ruleId, runId: cause.runId }
    }
  }
}
