import { describe, expect, it } from 'vitest'
import { Attempts } from './attempts'
import { hashPassword, isPassword } from './password'

describe('passwords', () => {
  it('are kept so that only the same one fits, and never the same way twice', async () => {
    const [one, two] = await Promise.all([hashPassword('cold rooms and kegs'), hashPassword('cold rooms and kegs')])
    expect(one).not.toBe(two)
    expect(one).not.toContain('cold')
    expect(await isPassword('cold rooms and kegs', one)).toBe(true)
    expect(await isPassword('cold rooms and kegs', two)).toBe(true)
    expect(await isPassword('cold rooms and keg', one)).toBe(false)
  })

  it('do not care how a keyboard composes an accent', async () => {
    expect(await isPassword('p\u00e3o de l\u00f3 quente', await hashPassword('pa\u0303o de lo\u0301 quente'))).toBe(
      true,
    )
  })

  it('never fit where there is no hash, or none that can be read', async () => {
    expect(await isPassword('anything at all', null)).toBe(false)
    expect(await isPassword('anything at all', 'plain$anything at all')).toBe(false)
  })
})

describe('attempts', () => {
  it('leave five free, then wait twice as long each time, up to an hour', () => {
    const attempts = new Attempts()
    let nowMs = 0
    const waits = Array.from({ length: 14 }, () => {
      attempts.failed('ines', nowMs)
      const wait = attempts.waitMs('ines', nowMs)
      nowMs += wait
      return wait / 1000
    })
    expect(waits).toEqual([0, 0, 0, 0, 30, 60, 120, 240, 480, 960, 1920, 3600, 3600, 3600])
    expect(attempts.waitMs('rosa', nowMs)).toBe(0)
  })

  it('are forgotten after a right password, and after a day', () => {
    const attempts = new Attempts()
    for (let i = 0; i < 5; i++) attempts.failed('ines', 0)
    expect(attempts.waitMs('ines', 0)).toBe(30_000)
    attempts.succeeded('ines')
    expect(attempts.waitMs('ines', 0)).toBe(0)
    for (let i = 0; i < 4; i++) attempts.failed('rosa', 0)
    attempts.failed('jude', 25 * 3_600_000)
    attempts.failed('rosa', 25 * 3_600_000)
    expect(attempts.waitMs('rosa', 25 * 3_600_000)).toBe(0)
  })
})
