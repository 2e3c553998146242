import type { Catalogue } from '#core/fields/catalogue'

/** The services outside that can be asked. */
export const connectionOptions = (
  catalogue: Catalogue,
): readonly { readonly value: string; readonly label: string; readonly hint: string }[] =>
  (catalogue.data.connections ?? [])
    .filter((one) => !one.archived)
    .map(({ id, name, address }) => ({ value: String(id), label: name, hint: address || 'simulated' }))
