import { describe, expect, it } from 'vitest'
import { Attempts, forAddress, forName } from './attempts'
import { isCommon } from './common-passwords'
import { hashPassword, isPassword, TooManyPasswords } from './password'

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
  const ines = [forName('ines')]

  it('leave some free, then wait twice as long each time, up to an hour', () => {
    const attempts = new Attempts()
    let nowMs = 0
    const waits = Array.from({ length: 14 }, () => {
      attempts.begin(ines, nowMs).over()
      const wait = attempts.waitMs(ines, nowMs)
      nowMs += wait
      return wait / 1000
    })
    expect(waits).toEqual([0, 0, 0, 0, 30, 60, 120, 240, 480, 960, 1920, 3600, 3600, 3600])
    expect(attempts.waitMs([forName('rosa')], nowMs)).toBe(0)
  })

  it('are forgotten after a right password, and after a day', () => {
    const attempts = new Attempts()
    for (let i = 0; i < 5; i++) attempts.begin(ines, 0).over()
    expect(attempts.waitMs(ines, 0)).toBe(30_000)
    const right = attempts.begin(ines, 30_000)
    right.right()
    right.over()
    expect(attempts.waitMs(ines, 30_000)).toBe(0)
    const rosa = [forName('rosa')]
    for (let i = 0; i < 4; i++) attempts.begin(rosa, 0).over()
    attempts.begin([forName('jude')], 25 * 3_600_000).over()
    attempts.begin(rosa, 25 * 3_600_000).over()
    expect(attempts.waitMs(rosa, 25 * 3_600_000)).toBe(0)
  })

  it('count when they begin, one at a time for a name', () => {
    const attempts = new Attempts()
    const first = attempts.begin(ines, 0)
    expect(attempts.waitMs(ines, 0)).toBe(1000)
    expect(attempts.waitMs([forName('rosa')], 0)).toBe(0)
    first.over()
    expect(attempts.waitMs(ines, 0)).toBe(0)
    // None of these is over; an address may try several names at once, but not for ever.
    const from = forAddress('192.0.2.7')
    for (let i = 0; i < 50; i++) {
      expect(attempts.waitMs([forName(`n${i}`), from], 0)).toBe(0)
      attempts.begin([forName(`n${i}`), from], 0)
    }
    expect(attempts.waitMs([forName('another'), from], 0)).toBe(30_000)
    expect(attempts.waitMs([forName('another'), forAddress('192.0.2.8')], 0)).toBe(0)
  })

  it('that are right take nothing off an address for good', () => {
    const attempts = new Attempts()
    const from = forAddress('192.0.2.7')
    for (let i = 0; i < 300; i++) {
      const one = attempts.begin([forName('rosa'), from], 0)
      one.right()
      one.over()
    }
    expect(attempts.waitMs([from], 0)).toBe(0)
    for (let i = 0; i < 50; i++) attempts.begin([forName(`n${i}`), from], 0).over()
    expect(attempts.waitMs([from], 0)).toBe(30_000)
  })
})

describe('common passwords', () => {
  it.each(['1234567890', 'Password123', 'qwertyuiop', 'sunshine!!', 'aaaaaaaaaaaa', 'abababababab', 'PASSWORD12345'])(
    'are refused: %s',
    (password) => expect(isCommon(password)).toBe(true),
  )
  it.each(['cold rooms and kegs', 'walk-in cold room', 'harbour crane 17 slow', 'pão de ló quente'])(
    'are not these: %s',
    (password) => expect(isCommon(password)).toBe(false),
  )
})

describe('hashing', () => {
  it('is done for two at a time, and refuses when too many wait', async () => {
    // As cheap as one can be: sixty of full cost are a quarter of a minute.
    const cheap = `scrypt$1024$8$1$c2FsdA==$${Buffer.alloc(32).toString('base64')}`
    const all = await Promise.allSettled(Array.from({ length: 60 }, () => isPassword('x', cheap)))
    const refused = all.filter((one) => one.status === 'rejected' && one.reason instanceof TooManyPasswords)
    expect(refused).toHaveLength(18)
    expect(all.filter((one) => one.status === 'fulfilled')).toHaveLength(42)
    expect(await isPassword('x', null)).toBe(false)
  }, 60_000)
})
