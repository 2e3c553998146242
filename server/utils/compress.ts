import { promisify } from 'node:util'
import { brotliCompress, constants, gzip } from 'node:zlib'

/** Smaller answers fit into one packet as they are. */
export const LEAST_BYTES = 1400
/** Of brotli's eleven: from here on more time saves hardly anything. */
const BROTLI_QUALITY = 4
const GZIP_LEVEL = 6

const brotli = promisify(brotliCompress)
const zip = promisify(gzip)

export interface Compressed {
  readonly encoding: 'br' | 'gzip'
  readonly body: Buffer
}

/** Whether a client takes an encoding (RFC 9110, 12.5.3): named, or covered by `*`, and not with a weight of 0. */
export function takes(accept: string, encoding: string): boolean {
  const wanted = accept.split(',').map((part) => {
    const [name = '', ...params] = part.split(';').map((piece) => piece.trim().toLowerCase())
    const weight = params.find((param) => param.startsWith('q='))
    return { name, weight: weight === undefined ? 1 : Number(weight.slice(2)) }
  })
  const found = wanted.find(({ name }) => name === encoding) ?? wanted.find(({ name }) => name === '*')
  return found !== undefined && found.weight > 0
}

/**
 * A text compressed in what the client takes, best first; `null` when it takes neither. Works off the serving thread.
 */
export async function compressed(text: string, accept: string): Promise<Compressed | null> {
  if (takes(accept, 'br')) {
    const params = { [constants.BROTLI_PARAM_QUALITY]: BROTLI_QUALITY }
    return { encoding: 'br', body: await brotli(text, { params }) }
  }
  return takes(accept, 'gzip') ? { encoding: 'gzip', body: await zip(text, { level: GZIP_LEVEL }) } : null
}
