import { OBJECT_WORDS, OBJECTS, type ObjectKind, type RecordRef } from '#core/records/kinds'
import type { ActName } from '#core/access/acts'

/** The word in addresses: `/records/deals/12`. */
export const objectPath = (object: ObjectKind): string => OBJECT_WORDS[object].many
export const objectOfPath = (path: unknown): ObjectKind | null =>
  OBJECTS.find((object) => OBJECT_WORDS[object].many === path) ?? null
export const recordPath = (ref: RecordRef): string => `/records/${objectPath(ref.object)}/${ref.id}`

/** What it takes to open a page; the server asks the same of the data behind it. */
export const actOfPath = (path: string): ActName =>
  /^\/(?:rules|fields|calculated-fields|scorecards|synonyms|pipelines|people|territories|hours|booking|data|rehearsal|cases|preflight|results|problems|overview)(?:\/|$)|^\/journal\/?$/.test(
    path,
  )
    ? 'readRules'
    : path.startsWith('/linking') || path.startsWith('/suggestions')
      ? 'build'
      : 'read'
