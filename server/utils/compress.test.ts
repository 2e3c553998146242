import { brotliDecompressSync, gunzipSync } from 'node:zlib'
import { describe, expect, it } from 'vitest'
import { compressed, takes } from './compress'

const TEXT = 'Walk-in cold room for a bakery, „drei Türen“. '.repeat(200)

describe('what a client takes', () => {
  it.each([
    ['gzip, deflate, br', 'br', true],
    ['gzip, deflate', 'br', false],
    ['br;q=0, gzip', 'br', false],
    ['br;q=0.5', 'br', true],
    ['BR', 'br', true],
    ['*', 'gzip', true],
    ['*;q=0, gzip', 'br', false],
    ['*, br;q=0', 'br', false],
    ['identity', 'gzip', false],
    ['', 'gzip', false],
  ])('“%s”: %s is %s', (accept, encoding, wanted) => expect(takes(accept, encoding)).toBe(wanted))
})

describe('an answer', () => {
  it('reads as it was, in the best of what is taken, and is shorter', async () => {
    const best = await compressed(TEXT, 'gzip, br')
    expect([best?.encoding, best && brotliDecompressSync(best.body).toString()]).toEqual(['br', TEXT])
    const zipped = await compressed(TEXT, 'gzip')
    expect([zipped?.encoding, zipped && gunzipSync(zipped.body).toString()]).toEqual(['gzip', TEXT])
    expect(Math.max(best?.body.length ?? Infinity, zipped?.body.length ?? Infinity)).toBeLessThan(TEXT.length / 5)
  })

  it('stays as it is for a client that takes neither', async () =>
    expect(await compressed(TEXT, 'identity')).toBeNull())
})
