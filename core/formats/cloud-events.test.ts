import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ACTIVITY_NAMES } from '../activities'
import { activityOfEvent, zCloudEvent } from './cloud-events'

const event = {
  specversion: '1.0',
  id: 'A-1',
  source: 'https://larkmoor.example/site',
  type: 'example.larkmoor.visit',
  subject: 'ada@lind.example',
  time: '2026-11-24T10:12:00.5+01:00',
  datacontenttype: 'application/json',
  data: { about: ' /prices ', width: 1280 },
  traceparent: '00-0af7651916cd43dd8448eb211c80319c-b7ad6b7169203331-01',
}
const read = (more: object) => activityOfEvent(zCloudEvent.parse({ ...event, ...more }))

describe('an event', () => {
  it('is an activity of the contact with the email', () => {
    expect(read({})).toEqual({
      activity: {
        email: 'ada@lind.example',
        kind: 'visit',
        about: '/prices',
        data: { width: 1280 },
        atMs: Date.UTC(2026, 10, 24, 9, 12, 0, 500),
        key: 'https://larkmoor.example/site A-1',
      },
    })
  })

  it('may be of a record, of a plain type, without time and data', () => {
    expect(read({ subject: 'deal/7', type: 'CALL', time: undefined, data: undefined })).toMatchObject({
      activity: { ref: { object: 'deal', id: 7 }, kind: 'call', about: '', data: {}, atMs: null },
    })
  })

  it.each([
    [{ type: 'example.larkmoor.9' }, 'type'],
    [{ type: 'visit.' }, 'type'],
    [{ subject: 'task/7' }, 'subject'],
    [{ subject: 'deal/x' }, 'subject'],
  ])('%j is refused by its attribute', (more, wrong) => {
    expect(read(more)).toMatchObject({ wrong })
  })

  it.each([
    { specversion: '0.3' },
    { id: '' },
    { source: undefined },
    { source: 'a b' },
    { time: '24.11.2026' },
    { time: '2026-11-24T10:12:00' },
    { datacontenttype: 'text/xml' },
    { data: 'text' },
  ])('%j does not fit the format', (more) => {
    expect(zCloudEvent.safeParse({ ...event, ...more }).success).toBe(false)
  })

  it('has a key that no other source and id have', () => {
    const part = fc.stringMatching(/^[\w:/?#.-]{1,20}$/)
    fc.assert(
      fc.property(part, part, part, part, fc.constantFrom(...ACTIVITY_NAMES), (s1, i1, s2, i2, type) => {
        const key = (source: string, id: string) => {
          const found = read({ source, id, type })
          return 'activity' in found ? found.activity.key : ''
        }
        expect(key(s1, i1) === key(s2, i2)).toBe(s1 === s2 && i1 === i2)
      }),
    )
  })
})
