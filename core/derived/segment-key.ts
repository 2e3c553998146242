/** The field in which it is kept whether a record is in a segment; there is one only while a rule goes by it. */
export const segmentKey = (id: number): string => `segment${id}`

/** The segment that a field is kept for; `null` for any other field. */
export function segmentOfKey(field: string): number | null {
  const id = /^segment([1-9]\d*)$/.exec(field)?.[1]
  return id === undefined ? null : Number(id)
}
