import { Webhook } from 'standardwebhooks'
import { describe, expect, it } from 'vitest'
import type { Into, Verify } from '../../core/web/intake'
import { document, set, task } from '../../core/testing/rules'
import { larkmoor, switchOn } from '../testing/workspace'
import { takeIn } from './intake'
import { addIntake } from './intakes'
import type { Workspace } from './workspace'

const CONTACT: Into = {
  to: 'record',
  object: 'contact',
  match: 'email',
  fields: [
    { key: 'email', path: '$.person.email' },
    { key: 'name', path: '$.person.name' },
    { key: 'phone', path: '$.person.phones[0]' },
  ],
}
function at(workspace: Workspace, into: Into, verify: Verify = 'secret') {
  const { id, secret } = addIntake(workspace, 'Form', verify, into, 'ines')
  const intake = workspace.store.intakes.get(id)
  if (!intake) throw new Error('no address')
  const post = (body: unknown, headers: Record<string, string> = {}) =>
    takeIn(workspace, intake, {
      body: typeof body === 'string' ? body : JSON.stringify(body),
      headers: { authorization: `Bearer ${secret}`, ...headers },
    })
  return { id, secret, post }
}
const person = (name: string, email: string) => ({ person: { name, email, phones: ['+351912000123'] } })
const contacts = (workspace: Workspace) =>
  workspace.store.records.behind('contact', 0, 9).map(({ values }) => `${String(values.name)} ${String(values.email)}`)

describe('a web request that comes in', () => {
  it('creates a contact, changes it the next time, and does nothing twice', () => {
    const { workspace } = larkmoor()
    switchOn(workspace, document({ object: 'contact', when: [['created', {}]], then: [task('Say hello')] }))
    const { post } = at(workspace, CONTACT)
    expect(post(person('Vera', 'Vera@lima.example'))).toEqual({ is: 'taken', says: 'created Vera' })
    expect(post(person('Vera', 'Vera@lima.example')).is).toBe('known')
    expect(post(person('Vera Lima', 'vera@LIMA.example'), { 'webhook-id': 'second' })).toEqual({
      is: 'taken',
      says: 'changed Vera Lima',
    })
    expect(post(person('Somebody else', 'x@y.example'), { 'webhook-id': 'second' }).is).toBe('known')
    expect(contacts(workspace)).toEqual(['Vera Lima vera@lima.example'])
    expect(workspace.store.runs.list({ limit: 9 })).toHaveLength(1)
  })

  it('is refused without the secret, with another’s, and where it does not fit, and kept with the reason', () => {
    const { workspace } = larkmoor()
    const { post } = at(workspace, CONTACT)
    const other = at(workspace, CONTACT).secret
    expect(post(person('Vera', 'v@x.example'), { authorization: '' })).toMatchObject({ is: 'refused', status: 401 })
    expect(post(person('Vera', 'v@x.example'), { authorization: `Bearer ${other}` })).toMatchObject({ status: 401 })
    expect(post('{"person":')).toMatchObject({ status: 422, because: 'the body is no JSON' })
    expect(post({ person: { name: 'Vera', email: 'no address' } })).toMatchObject({ is: 'refused', status: 422 })
    expect(contacts(workspace)).toEqual([])
    const kept = workspace.store.intakes.requests(9)
    expect(kept.map(({ state }) => state)).toEqual(['refused', 'refused', 'refused', 'refused'])
    expect(kept[0]?.says).toMatch(/^email: /)
    // Put right it comes again and is taken.
    expect(post({ person: { name: 'Vera', email: 'v@x.example' } }).is).toBe('taken')
  })

  it('is believed by its signature, of this body and this moment only', () => {
    const { workspace } = larkmoor()
    const { secret, post } = at(workspace, CONTACT, 'signature')
    const body = JSON.stringify(person('Vera', 'v@x.example'))
    const sign = (text: string, when = new Date()) => ({
      'webhook-id': 'm1',
      'webhook-timestamp': String(Math.floor(when.getTime() / 1000)),
      'webhook-signature': new Webhook(secret).sign('m1', when, text),
    })
    expect(post(body).is).toBe('refused')
    expect(post(body, sign(body.replace('Vera', 'Eve'))).is).toBe('refused')
    expect(post(body, sign(body, new Date(Date.now() - 3_600_000))).is).toBe('refused')
    expect(post(body, sign(body)).is).toBe('taken')
  })

  it('becomes an activity of whoever it names', () => {
    const { workspace } = larkmoor()
    const { ref } = workspace.create('contact', { name: 'Vera', email: 'v@x.example', owner: 'rosa' }, [], 'ines')
    const { post } = at(workspace, {
      to: 'activity',
      kind: 'call',
      email: 'who',
      about: 'topic',
      data: [{ key: 'minutes', path: 'length' }],
    })
    expect(post({ who: 'v@x.example', topic: 'offer', length: 4 }).is).toBe('taken')
    expect(workspace.store.activities.of(ref)).toMatchObject([{ kind: 'call', about: 'offer', data: { minutes: 4 } }])
    expect(post({ who: 'v@x.example', topic: 'offer', length: 'long' }).is).toBe('refused')
    expect(post({ topic: 'nobody' }).is).toBe('refused')
  })

  it('runs a rule for the record it names, with answers in types', () => {
    const { workspace } = larkmoor()
    const questions = [{ key: 'units', label: 'How many?', type: 'number', choices: [], required: true }]
    const rule = switchOn(
      workspace,
      document({
        when: [['byHand', { button: 'Order', facts: [], questions }]],
        then: [set('notes', 'ordered')],
      }),
    )
    const { ref } = workspace.create('deal', { name: 'Two rooms', stage: 'hp-sized', owner: 'rosa' }, [], 'ines')
    const { post } = at(workspace, {
      to: 'rule',
      rule,
      object: 'deal',
      match: 'name',
      path: 'deal',
      answers: [{ key: 'units', path: 'n' }],
    })
    expect(post({ deal: 'Two rooms', n: 'x' })).toMatchObject({ is: 'refused' })
    expect(post({ deal: 'Nowhere', n: 1 })).toMatchObject({ because: 'name: no deal has Nowhere' })
    expect(post({ deal: 'two rooms', n: 3 }).is).toBe('taken')
    expect(workspace.world.read(ref)?.values.notes).toBe('ordered')
  })

  it('says at once what an address can’t do', () => {
    const { workspace } = larkmoor()
    const wrong = (into: Into) => () => addIntake(workspace, 'x', 'secret', into, 'ines')
    expect(wrong({ ...CONTACT, match: 'phone2' } as Into)).toThrow()
    expect(wrong({ ...CONTACT, fields: [{ key: 'name', path: 'n' }] } as Into)).toThrow()
    expect(wrong({ to: 'activity', kind: 'nothing', email: 'e', about: '', data: [] })).toThrow()
    expect(wrong({ to: 'rule', rule: 99, object: 'deal', match: 'name', path: 'n', answers: [] })).toThrow()
  })
})
