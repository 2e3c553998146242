import type { Scope } from '../../core/access/scope'
import { fieldWord } from '../../core/fields/say-value'
import { listOf } from '../../core/language/counts'
import { aOne, OBJECT_WORDS } from '../../core/records/kinds'
import type { Into } from '../../core/web/intake'
import { addressOfIntake } from '../engine/intakes'
import { seesRef } from '../engine/seen'
import type { Workspace } from '../engine/workspace'

const SHOWN = 50

/** What becomes of a request, in words. */
export function sayInto(workspace: Workspace, into: Into): string {
  const catalogue = workspace.catalogue()
  if (into.to === 'activity') return `an activity: ${catalogue.activities.get(into.kind)?.one ?? into.kind}`
  const word = (key: string): string => fieldWord(catalogue.field(into.object, key)) ?? key
  const by = word(into.match)
  if (into.to === 'rule') {
    const name = workspace.store.rules.names().get(into.rule) ?? into.rule
    return `runs “${name}” for the ${OBJECT_WORDS[into.object].one} with that ${by}`
  }
  const filled = listOf(into.fields.map(({ key }) => word(key)))
  return `creates ${aOne(into.object)}, or changes the one with the same ${by}: ${filled}`
}

/** Addresses for incoming requests, and what came in. */
export function intakesShown(workspace: Workspace, scope: Scope) {
  const { intakes } = workspace.store
  const all = intakes.all()
  return {
    intakes: all.map(({ id, name, slug, verify, into }) => ({
      id,
      name,
      address: addressOfIntake(slug),
      verify,
      into,
      says: sayInto(workspace, into),
    })),
    requests: intakes
      .requests(SHOWN)
      .filter(
        ({ object, recordId }) => !object || recordId === null || seesRef(workspace, scope, { object, id: recordId }),
      )
      .map(({ id, intakeId, body, state, says, object, recordId, atMs }) => {
        const ref = object && object !== 'none' && recordId !== null ? { object, id: recordId } : null
        return {
          id,
          intakeId,
          name: all.find((one) => one.id === intakeId)?.name ?? '',
          body,
          state,
          says,
          ref,
          recordName: ref ? workspace.nameOf(ref) : '',
          atMs,
        }
      }),
  }
}
