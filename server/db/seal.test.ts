import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { seal, unseal } from './seal'

let folder = ''
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'sky-lever-seal-'))
})
afterEach(() => rmSync(folder, { recursive: true, force: true }))

describe('what is sealed', () => {
  it('is read with the key beside its database alone', () => {
    const [one, other] = [join(folder, 'one.db'), join(folder, 'other.db')]
    const sealed = seal(one, 'a secret')
    expect(sealed).not.toContain('secret')
    expect(unseal(one, sealed)).toBe('a secret')
    expect(unseal(other, sealed)).toBe(null)
    expect(unseal(one, sealed.slice(4))).toBe(null)
    expect(seal(one, 'a secret')).not.toBe(sealed)
  })

  it('says which key is not whole', () => {
    const file = join(folder, 'cut.db')
    writeFileSync(`${file}.key`, 'abc')
    expect(() => seal(file, 'a secret')).toThrow(/cut\.db\.key is not whole/)
  })
})
