/** Numbers and names made of texts: always the same for the same text, on every machine. */

/** FNV-1a over UTF-16 units, then the finishing steps of MurmurHash3 (both public domain): near texts lie far apart. */
function mixed(text: string, seed: number): number {
  let hash = seed
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193)
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b)
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35)
  return (hash ^ (hash >>> 16)) >>> 0
}

/** A number from 0 to 1 (1 left out), spread evenly over texts. */
export const stableShare = (text: string): number => mixed(text, 0x811c9dc5) / 4294967296

/** Sixteen hexadecimal digits: two texts of one workspace hardly ever have the same. */
export const stableName = (text: string): string =>
  [0x811c9dc5, 0x9747b28c].map((seed) => mixed(text, seed).toString(16).padStart(8, '0')).join('')
