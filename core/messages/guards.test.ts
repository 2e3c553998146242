import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { instantAt, minuteAt } from '../time/moments'
import { judge, sayHeld, type AddressFacts, type Asked } from './guards'

const NOW_MS = Date.UTC(2026, 10, 24, 9, 12)
const HOUR_MS = 3_600_000
const DAY_MS = 24 * HOUR_MS
const ASKED: Asked = {
  channel: 'mail',
  name: 'Vera Lima',
  address: 'vera@lima.example',
  field: 'email',
  reachable: true,
  optedOut: false,
  text: 'Hello',
  againDays: null,
  urgent: false,
  zone: 'Europe/Lisbon',
  hours: { from: 480, to: 1200, days: [1, 2, 3, 4, 5, 6] },
  personDay: 2,
  ruleHour: 500,
}
const NOTHING: AddressFacts = { stopped: null, sent: [], toPerson: [], ofRule: [] }
const ask = (asked: Partial<Asked> = {}, facts: Partial<AddressFacts> = {}, nowMs = NOW_MS) =>
  judge({ ...ASKED, ...asked }, { ...NOTHING, ...facts }, nowMs)
const why = (...given: Parameters<typeof ask>): string => {
  const verdict = ask(...given)
  return verdict.go === 'never' ? sayHeld(verdict.held) : verdict.go === 'later' ? verdict.say : 'now'
}

describe('a message', () => {
  it('goes now within their hours, to somebody who may be written to', () => {
    expect(ask()).toEqual({ go: 'now', address: 'vera@lima.example' })
  })

  it('does not go where nobody gets it, or wants it', () => {
    expect(why({ address: null })).toBe('Vera Lima has no email')
    expect(why({ channel: 'text', address: '+351210000123', reachable: false })).toBe(
      '+351210000123 of Vera Lima is a landline',
    )
    expect(why({ optedOut: true })).toBe('Vera Lima opted out (it says so on the record)')
    expect(why({}, { stopped: { because: 'optedOut', how: 'by link' } })).toBe('Vera Lima opted out (by link)')
    expect(why({}, { stopped: { because: 'never', how: '' } })).toContain('never to write to')
    expect(why({}, { stopped: { because: 'bounced', how: '' } })).toContain('came back')
  })

  it('does not go twice with the same text, but after the chosen days', () => {
    const sent = [{ text: 'Hello', atMs: NOW_MS - 10 * DAY_MS }]
    expect(why({}, { sent })).toBe('Vera Lima got the same text on 14 Nov 2026, 9:12')
    expect(ask({ againDays: 11 }, { sent }).go).toBe('never')
    expect(ask({ againDays: 10 }, { sent }).go).toBe('now')
    expect(ask({ text: 'Hello!' }, { sent }).go).toBe('now')
  })

  it('at three in the night waits for their morning, unless it is urgent', () => {
    const night = instantAt('2026-11-24', 190, 'America/Halifax')
    const verdict = ask({ zone: 'America/Halifax' }, {}, night)
    expect(verdict).toMatchObject({ go: 'later', atMs: instantAt('2026-11-24', 480, 'America/Halifax') })
    expect(why({ zone: 'America/Halifax' }, {}, night)).toBe(
      'for Vera Lima it is 24 Nov 2026, 3:10 (Halifax); it goes on 24 Nov 2026, 8:00 their time',
    )
    expect(ask({ zone: 'America/Halifax', urgent: true }, {}, night).go).toBe('now')
  })

  it('waits while the person, or the rule, had as many as may be', () => {
    const verdict = ask({}, { toPerson: [NOW_MS - HOUR_MS, NOW_MS - 5 * HOUR_MS] })
    // The day after, when the older of the two is 24 hours old: within their hours.
    expect(verdict).toMatchObject({ go: 'later', atMs: instantAt('2026-11-25', 480, 'Europe/Lisbon') })
    expect(ask({}, { toPerson: [NOW_MS - HOUR_MS, NOW_MS - 25 * HOUR_MS] }).go).toBe('now')
    expect(ask({ ruleHour: 2 }, { ofRule: [NOW_MS - 1000, NOW_MS - HOUR_MS / 2] })).toMatchObject({
      go: 'later',
      atMs: NOW_MS + HOUR_MS / 2,
    })
  })

  it('never goes out of hours, over a limit, or twice, whatever came before', () => {
    const moments = fc.array(fc.integer({ min: 0, max: 40 }), { maxLength: 6 })
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 400 * 24 }),
        fc.constantFrom('Europe/Lisbon', 'Pacific/Auckland', 'America/Vancouver'),
        moments,
        moments,
        fc.integer({ min: 1, max: 3 }),
        (hour, zone, person, rule, most) => {
          let nowMs = NOW_MS + hour * HOUR_MS
          const facts: AddressFacts = {
            stopped: null,
            sent: [],
            toPerson: person.map((ago) => nowMs - ago * HOUR_MS),
            ofRule: rule.map((ago) => nowMs - ago * 600_000),
          }
          const asked: Asked = { ...ASKED, zone, personDay: most, ruleHour: most }
          // Waiting as long as it says always ends, and then it goes.
          for (let n = 0; ; n++) {
            expect(n).toBeLessThan(5)
            const verdict = judge(asked, facts, nowMs)
            if (verdict.go === 'now') break
            if (verdict.go === 'never') return expect.fail('it should wait')
            expect(verdict.atMs).toBeGreaterThan(nowMs)
            nowMs = verdict.atMs
          }
          expect(minuteAt(nowMs, zone)).toBeGreaterThanOrEqual(480)
          expect(minuteAt(nowMs, zone)).toBeLessThan(1200)
          expect(facts.toPerson.filter((atMs) => atMs > nowMs - DAY_MS).length).toBeLessThan(most)
          expect(facts.ofRule.filter((atMs) => atMs > nowMs - HOUR_MS).length).toBeLessThan(most)
        },
      ),
      { numRuns: 200 },
    )
  })
})
