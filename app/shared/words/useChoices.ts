import type { Field } from '#core/fields/field'
import { send, attempt } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'

/** Adds a choice to a field, for this window at once and for all others as soon as they hear of it. Answers its id. */
export async function makeChoice(field: Field, label: string): Promise<string | null> {
  const made = await attempt(() => send<{ id: string }>('POST', `/api/v1/fields/${field.id}/choices`, { label }))
  if (!made) return null
  await useCatalogue().load()
  return made.id
}
