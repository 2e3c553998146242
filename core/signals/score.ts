import { changesOf, defineSignal } from './signal'

/** The points of a score are others than before. */
export const score = defineSignal({
  kind: 'score',
  *keys(event, catalogue) {
    for (const change of changesOf(event)) {
      const made = catalogue.field(event.ref.object, change.field)?.made
      if (made?.by === 'score' && made.part === 'points') yield change.field
    }
  },
  about: (key) => ({ field: key }),
})

export const onScore = (field: string) => ({ signal: 'score', key: field }) as const
