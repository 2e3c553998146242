import { segmentKey, segmentOfKey } from '../derived/segment-key'
import { changesOf, defineSignal } from './signal'

/** A record came into a segment, or left it. One that is created in it enters it. */
export const segment = defineSignal({
  kind: 'segment',
  *keys(event) {
    for (const change of changesOf(event)) {
      const id = segmentOfKey(change.field)
      if (id === null) continue
      if (change.new === true) yield `+${id}`
      else if (change.old === true) yield `-${id}`
    }
  },
  about: (key) => ({ field: segmentKey(Number(key.slice(1))), exact: key.slice(0, 1) }),
})

export const onSegment = (id: number, inside: boolean) =>
  ({
    signal: 'segment',
    key: `${inside ? '+' : '-'}${id}`,
  }) as const
