import type { Into, Verify } from '../../core/web/intake'
import { baseOf } from '../channels/base'
import type { Workspace } from './workspace'
import type { Problem } from '../../core/language/problems'
import { refuse } from './refuse'

/** Addresses at which services outside tell something. */

export const addressOfIntake = (slug: string): string => `${baseOf()}/in/${slug}`

/** Refuses what names fields, activities or rules that are not there. */
function check(workspace: Workspace, into: Into): void {
  const catalogue = workspace.catalogue()
  const wrong = (path: string, problem: Problem): never => {
    throw refuse(path, problem)
  }
  if (into.to === 'activity') {
    const kind = catalogue.activities.get(into.kind) ?? wrong('into.kind', { code: 'noSuchActivity' })
    for (const { key } of into.data)
      if (!kind.data.some((one) => one.key === key)) wrong('into.data', { code: 'activityTells', key })
    return
  }
  for (const key of [into.match, ...(into.to === 'record' ? into.fields.map((one) => one.key) : [])])
    if (!catalogue.field(into.object, key)) wrong('into.fields', { code: 'noSuchField', field: key })
  if (into.to === 'record' && !into.fields.some(({ key }) => key === into.match))
    wrong('into.match', { code: 'matchAmongFilled' })
  if (into.to === 'rule' && !workspace.store.rules.get(into.rule)) wrong('into.rule', { code: 'noSuchRule' })
}

export function addIntake(
  workspace: Workspace,
  name: string,
  verify: Verify,
  into: Into,
  personId: string,
): { readonly id: number; readonly address: string; readonly secret: string } {
  check(workspace, into)
  const { id, secret } = workspace.store.intakes.add(name, verify, into, personId)
  return { id, secret, address: addressOfIntake(workspace.store.intakes.get(id)?.slug ?? '') }
}

interface Change {
  readonly name?: string | undefined
  readonly verify?: Verify | undefined
  readonly into?: Into | undefined
  readonly archived?: boolean | undefined
  readonly newSecret?: true | undefined
}

export function changeIntake(
  workspace: Workspace,
  id: number,
  { newSecret, ...change }: Change,
): { readonly secret: string | null } {
  if (change.into) check(workspace, change.into)
  workspace.store.intakes.change(
    id,
    Object.fromEntries(Object.entries(change).filter(([, value]) => value !== undefined)),
  )
  return { secret: newSecret ? workspace.store.intakes.renew(id) : null }
}
