import { Catalogue, type CatalogueData } from '#core/fields/catalogue'
import type { Field } from '#core/fields/field'
import { FIELD_TYPES } from '#core/fields/types'
import { isEmpty, type Value, type Values } from '#core/fields/value'

interface Facts {
  data: CatalogueData
  me: string
  acts: readonly string[]
  nowMs: number
  today: string
}

/** Fields, pipelines, people and who is looking. Read once for the whole app, on the server when it can be. */
export const useCatalogue = defineStore('catalogue', () => {
  const facts = shallowRef<Facts | null>(null)

  async function load(): Promise<void> {
    facts.value = await useRequestFetch()<Facts>('/api/v1/catalogue')
  }

  const catalogue = computed(() => {
    if (!facts.value) throw new Error('the catalogue has not been read')
    return markRaw(new Catalogue(facts.value.data))
  })
  const me = computed(() => catalogue.value.person(facts.value?.me ?? ''))
  const may = (act: 'read' | 'work' | 'build'): boolean => facts.value?.acts.includes(act) ?? false
  const today = computed(() => facts.value?.today ?? '')
  const personName = (id: unknown): string => (typeof id === 'string' ? (catalogue.value.person(id)?.name ?? id) : '')

  /** A value as people read it; an empty one is an empty text. */
  function show(value: Value | undefined, field: Field, values: Values = {}): string {
    if (isEmpty(value)) return ''
    const code = field.currencyKey ? values[field.currencyKey] : null
    return FIELD_TYPES[field.type].write(value, { catalogue: catalogue.value, field, currency: typeof code === 'string' ? code.toUpperCase() : null })
  }

  return { facts, load, catalogue, me, may, today, personName, show }
})
