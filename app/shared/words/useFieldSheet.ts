import type { ObjectKind } from '#core/records/kinds'
import type { FieldSheet } from '~~/server/views/field-sheet'
import { read } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'

const FRESH_MS = 60_000
const kept = new Map<ObjectKind, { readonly atMs: number; readonly sheet: FieldSheet }>()

/**
 * How far fields are filled and what stands in them, read when somebody picks one and kept for a minute. Nobody waits
 * for it.
 */
export function useFieldSheet(object: () => ObjectKind) {
  const store = useCatalogue()
  const sheet = shallowRef<FieldSheet | null>(null)
  async function look(): Promise<void> {
    const of = object()
    const known = kept.get(of)
    sheet.value = known?.sheet ?? null
    if (!store.may('readRules') || (known && performance.now() - known.atMs < FRESH_MS)) return
    const found = await read<FieldSheet>(`/api/v1/field-sheets/${of}`).catch(() => null)
    if (!found) return
    kept.set(of, { atMs: performance.now(), sheet: found })
    if (of === object()) sheet.value = found
  }
  return { sheet, look }
}
