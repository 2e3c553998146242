import { describe, expect, it } from 'vitest'
import { STEPS } from '../../core/rules/steps'
import { checkRule } from '../../core/rules/check'
import { document, enters, task, type StepLine } from '../../core/testing/rules'
import { newSigningSecret } from '../store/connections'
import { workspace as workspaceTable } from '../db/schema/catalogue'
import { larkmoor, switchOn } from '../testing/workspace'
import { repliedLater } from './web-replies'
import type { Workspace } from './workspace'

const READINGS = [
  { key: 'number', label: 'order number', type: 'text', path: '$.order.number' },
  { key: 'total', label: 'order total', type: 'number', path: 'order.total' },
]
const ask = (connection: number, more: object = {}): StepLine => [
  'webRequest',
  {
    ...STEPS.webRequest.start,
    connection,
    path: '/orders',
    body: '{"name":"{{deal.name}}","amount":"{{deal.amount}}"}',
    readings: READINGS,
    most: { count: 2, unit: 'workdays' },
    recheck: false,
    ...more,
  },
  ...([
    [null, task('Order {{s1.number}} over {{s1.total}}')],
    [null, task('Not taken: {{s1.status}}')],
  ] as unknown as []),
]
function connected(address = '') {
  const { workspace, clock } = larkmoor()
  const id = workspace.store.connections.add('Order system', address, {
    signing: newSigningSecret(),
    headers: { authorization: 'Bearer secret' },
  })
  workspace.catalogueChanged()
  return { workspace, clock, id }
}
const tells = (workspace: Workspace, status: number, body: string) =>
  workspace.db.orm.update(workspaceTable).set({ simulatedAnswer: { status, body } }).run()
function quote(workspace: Workspace) {
  const values = { name: 'Two "rooms"', stage: 'hp-sized', owner: 'rosa', amount: 1200 }
  const { ref } = workspace.create('deal', values, [], 'ines')
  workspace.change(ref, { stage: 'hp-quoted' }, 'rosa')
  return ref
}
const titles = (workspace: Workspace) => workspace.store.tasks.openFor('rosa', '9999-12-31').map((one) => one.title)

describe('a web request in a rule', () => {
  it('goes once, filled in types, and what it answers is at hand further down', async () => {
    const { workspace, id } = connected()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [ask(id)] }))
    tells(workspace, 201, '{"order":{"number":77,"total":"1250.5"}}')
    quote(workspace)
    expect(titles(workspace)).toEqual([])
    await workspace.courier.run()
    await workspace.courier.run()
    expect(titles(workspace)).toEqual(['Order 77 over 1,250.5'])
    const [row, ...others] = workspace.store.connections.requests(null, 9)
    expect(others).toEqual([])
    expect(row).toMatchObject({ method: 'POST', path: '/orders', outcome: 'taken', status: 201 })
    expect(JSON.parse(row?.body ?? '')).toEqual({ name: 'Two "rooms"', amount: 1200 })
    expect(JSON.stringify(row)).not.toContain('secret')
  })

  it('that is refused goes the other way, and what failed is tried again before', async () => {
    const { workspace, id, clock } = connected()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [ask(id)] }))
    tells(workspace, 503, 'busy')
    quote(workspace)
    await workspace.courier.run()
    expect(titles(workspace)).toEqual([])
    tells(workspace, 422, 'no such customer')
    clock.set(clock.nowMs() + 20_000)
    await workspace.courier.run()
    expect(titles(workspace)).toEqual(['Not taken: 422'])
    expect(workspace.store.connections.requests(null, 9)[0]?.answer).toContain('no such customer')
  })

  it('says before it runs what is wrong with it', () => {
    const { workspace, id } = connected()
    const wrong = (connection: number, more: object) =>
      checkRule(document({ when: [enters('hp-quoted')], then: [ask(connection, more)] }), workspace.catalogue()).map(
        ({ param, text }) => `${param}: ${text}`,
      )
    expect(wrong(id, {})).toEqual([])
    expect(wrong(99, {})).toEqual(['connection: Choose a connection'])
    expect(wrong(id, { body: '{"a":}' })[0]).toMatch(/^body: No JSON/)
    expect(wrong(id, { body: '{"a":"{{deal.nothing}}"}' })[0]).toMatch(/^body: .*nothing/)
    expect(wrong(id, { path: 'orders' })[0]).toMatch(/slash/)
  })

  it('keeps the secrets of a connection to itself', () => {
    const { workspace, id } = connected('https://orders.example')
    expect(JSON.stringify(workspace.catalogue().data.connections)).toBe(
      JSON.stringify([
        { id, name: 'Order system', address: 'https://orders.example', headers: ['authorization'], archived: false },
      ]),
    )
    const stored = workspace.db.sqlite.prepare('SELECT value FROM secrets').pluck().all().join(' ')
    expect(stored).not.toContain('Bearer')
    expect(workspace.store.connections.secrets(id)?.headers).toEqual({ authorization: 'Bearer secret' })
  })

  it('goes on with an answer that comes later, once, and no sooner', async () => {
    const { workspace, id } = connected()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [ask(id, { answer: 'later' })] }))
    tells(workspace, 202, '{"order":{"number":1,"total":1}}')
    quote(workspace)
    await workspace.courier.run()
    expect(titles(workspace)).toEqual([])
    const [row] = workspace.store.connections.requests(null, 9)
    if (!row) throw new Error('no request')
    expect(row).toMatchObject({ later: true, outcome: 'taken', status: 202, answeredAt: null })
    expect(workspace.store.connections.outgoing(row.key, (n) => `to-${n}`)?.headers['answer-to']).toBe(`to-${row.id}`)
    expect(repliedLater(workspace, row.id, '{"order":{"number":78,"total":9}}')).toBe('taken')
    expect(repliedLater(workspace, row.id, '{"order":{"number":79,"total":9}}')).toBe('known')
    expect(repliedLater(workspace, row.id + 1, '{}')).toBe('unknown')
    expect(titles(workspace)).toEqual(['Order 78 over 9'])
  })

  it('whose answer was to come later goes the other way at once when it is refused', async () => {
    const { workspace, id } = connected()
    switchOn(workspace, document({ when: [enters('hp-quoted')], then: [ask(id, { answer: 'later' })] }))
    tells(workspace, 422, 'no')
    quote(workspace)
    await workspace.courier.run()
    expect(titles(workspace)).toEqual(['Not taken: 422'])
    expect(repliedLater(workspace, 1, '{}')).toBe('known')
  })
})
