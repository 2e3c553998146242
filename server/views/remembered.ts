import type { ClockRecords } from '../../core/rules/clock'

/** What a question to a world's records is known by; texts and numbers only. */
const nameOf = (parts: readonly unknown[]): string => JSON.stringify(parts)

/**
 * The same records, each question asked once: for one look over many moments, which asks about the same days again and
 * again. Belongs to a single reading; nobody may write while it is used.
 */
export function remembered(records: ClockRecords): ClockRecords {
  const known = new Map<string, unknown>()
  const once = <T>(name: string, ask: () => T): T => {
    if (!known.has(name)) known.set(name, ask())
    return known.get(name) as T
  }
  return {
    catalogue: () => records.catalogue(),
    read: (ref) => once(nameOf(['read', ref.object, ref.id]), () => records.read(ref)),
    related: (ref, object) => once(nameOf(['related', ref.object, ref.id, object]), () => records.related(ref, object)),
    least: (...given) => once(nameOf(['least', ...given]), () => records.least(...given)),
    holding: (...given) => once(nameOf(['holding', ...given]), () => records.holding(...given)),
    between: (...given) => once(nameOf(['between', ...given]), () => records.between(...given)),
    matching: (...given) => records.matching(...given),
  }
}
