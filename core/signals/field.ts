import { isEmpty } from '../language/value'
import { changesOf, defineSignal } from './signal'

/** A field changed, to whatever, or to one value. A record that is new bears its values like changes. */
export const field = defineSignal({
  kind: 'field',
  *keys(event, catalogue) {
    for (const change of changesOf(event)) {
      yield change.field
      const known = isEmpty(change.new) ? null : catalogue.field(event.ref.object, change.field)
      if (known) yield `${change.field}=${catalogue.compared(known, change.new)}`
    }
  },
  about(key) {
    const at = key.indexOf('=')
    return at < 0 ? { field: key } : { field: key.slice(0, at), exact: key.slice(at) }
  },
})

export const onField = (key: string) => ({ signal: 'field', key }) as const
/** `compared` is the value in the form in which values are compared. */
export const onValue = (key: string, compared: string | number) =>
  ({
    signal: 'field',
    key: `${key}=${compared}`,
  }) as const
