import { Catalogue, type CatalogueData } from '#core/fields/catalogue'
import type { Field } from '#core/fields/field'
import { FIELD_TYPES } from '#core/fields/types'
import { isEmpty, type Value, type Values } from '#core/language/value'
import type { ActName } from '#core/access/acts'
import { problemOf } from '~/shared/api/api'

interface Facts {
  data: CatalogueData
  me: string
  acts: readonly ActName[]
  /** Where the telling of changes stood when this was read. */
  live: string
  nowMs: number
  today: string
}

/** Fields, pipelines, people and who is looking. Read once for the whole app, on the server when it can be. */
export const useCatalogue = defineStore('catalogue', () => {
  const facts = shallowRef<Facts | null>(null)

  /** Whether somebody is signed in, nobody is, or there is no workspace yet to sign in to. */
  const way = ref<'unknown' | 'in' | 'out' | 'empty'>('unknown')

  async function load(): Promise<void> {
    try {
      facts.value = await useRequestFetch()<Facts>('/api/v1/catalogue')
      way.value = 'in'
    } catch (error) {
      const { status } = problemOf(error)
      if (status !== 401 && status !== 503) throw error
      way.value = status === 401 ? 'out' : 'empty'
    }
  }

  const catalogue = computed(() => {
    if (!facts.value) throw new Error('the catalogue has not been read')
    return markRaw(new Catalogue(facts.value.data))
  })
  const me = computed(() => catalogue.value.person(facts.value?.me ?? ''))
  const may = (act: ActName): boolean => facts.value?.acts.includes(act) ?? false
  const today = computed(() => facts.value?.today ?? '')
  const personName = (id: unknown): string => (typeof id === 'string' ? (catalogue.value.person(id)?.name ?? id) : '')

  /** A value as people read it; an empty one is an empty text. */
  function show(value: Value | undefined, field: Field, values: Values = {}): string {
    if (isEmpty(value)) return ''
    const code = field.currencyKey ? values[field.currencyKey] : null
    return FIELD_TYPES[field.type].write(value, {
      catalogue: catalogue.value,
      field,
      currency: typeof code === 'string' ? code.toUpperCase() : null,
    })
  }

  return { facts, way, load, catalogue, me, may, today, personName, show }
})
