import type { InjectionKey, Ref } from 'vue'
import type { Catalogue } from '#core/fields/catalogue'
import { useCatalogue } from '~/shared/stores/catalogue'

/** The catalogue as a place on a sheet sees it: with the results of the steps before it. */
export const HERE: InjectionKey<Readonly<Ref<Catalogue>>> = Symbol('here')

/** What can be named at this place; everywhere else than on a sheet it is the workspace's catalogue. */
export function useHere(): Readonly<Ref<Catalogue>> {
  const store = useCatalogue()
  return inject(HERE, null) ?? computed(() => store.catalogue)
}
