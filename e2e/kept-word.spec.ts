import Database from 'better-sqlite3'
import { all, condition, document as written, enters, given, set, task } from '../core/testing/rules'
import { expect, open, test } from './app'
import { ANEW, ownDemo } from './own-demo'
import { byApi, type Rule } from './rules-by-api'

/** What the engine promises, tried over HTTP on a demo workspace of its own, whose file is tampered with. */
const demo = ownDemo(3133)
const { api, get, post, make, dbFile } = demo

const { rule, save, patch, tasksOf } = byApi(demo)

test('one rule that cannot be read stops nothing else, says where and why, and runs again once published', async ({
  page,
}) => {
  const when = [enters('hp-quoted')]
  const odd = await rule(written({ when, then: [task('Odd')] }, 'Teleports'))
  await rule(written({ when, then: [task('Good')] }, 'Stays'))
  const db = new Database(dbFile())
  // A version as a later release may write it.
  const { lastInsertRowid } = db
    .prepare(
      `INSERT INTO rule_versions (rule_id, number, document, published_by, published_at, note)
      SELECT rule_id, 2, json_set(document, '$.steps[0].kind', 'teleport'), published_by, published_at, ''
      FROM rule_versions WHERE rule_id = ?`,
    )
    .run(odd)
  db.prepare('UPDATE rules SET version_id = ? WHERE id = ?').run(lastInsertRowid, odd)
  // As another process would have left it.
  db.prepare("UPDATE revisions SET n = n + 1 WHERE what = 'rules'").run()
  db.close()
  const deal = await make('deal', { name: 'Dock', stage: 'hp-visit', owner: 'rosa' })
  const moved = await patch(`/records/deal/${deal}`, { values: { stage: 'hp-quoted' } })
  expect(moved.status()).toBe(200)
  expect(await tasksOf(deal)).toContain('Good')
  for (const path of ['/rules', '/runs', '/ahead', '/boards/hp', '/preflight'])
    expect((await api().get(`/api/v1${path}`, ANEW)).status(), path).toBe(200)

  await open(page, `/rules/${odd}`)
  await expect(page.getByRole('alert').first()).toContainText(/Version 2 can’t be read and doesn’t run: steps\.0/)
  const { draft } = await get<Rule>(`/rules/${odd}`)
  await save(odd, { ...draft, description: 'Mended' })
  await post(`/rules/${odd}/state`, { state: 'on', anyway: true })
  expect((await get<Rule>(`/rules/${odd}`)).unreadable).toBeNull()
  const other = await make('deal', { name: 'Dock 2', stage: 'hp-visit', owner: 'rosa' })
  await patch(`/records/deal/${other}`, { values: { stage: 'hp-quoted' } })
  expect(await tasksOf(other)).toEqual(expect.arrayContaining(['Good', 'Odd']))
})

test('a field that a waiting run still needs cannot be archived, although no rule names it any more', async () => {
  const field = await post<{ id: number; key: string }>('/fields', { object: 'deal', label: 'Ramp', type: 'number' })
  const { key } = field.key ? field : { key: 'ramp' }
  const wait = { until: { at: 'after', amount: { count: 3, unit: 'days' }, minute: null }, recheck: false }
  const slow = await rule(written({ when: [enters('hp-terms')], then: [['wait', wait], set(key, 4)] }, 'Slow ramp'))
  const deal = await make('deal', { name: 'Ramp', stage: 'hp-visit', owner: 'rosa' })
  await patch(`/records/deal/${deal}`, { values: { stage: 'hp-terms' } })
  await save(slow, written({ when: [enters('hp-terms')], then: [task('Other')] }, 'Slow ramp'))
  await post(`/rules/${slow}/state`, { state: 'on', anyway: true, waiting: 'finish' })
  const refused = await patch(`/fields/${field.id}`, { archived: true })
  expect(refused.status()).toBe(422)
  expect(await refused.text()).toContain('1 waiting run of version 1 of rule “Slow ramp” still needs it')
})

test('very many linked records are gone through in the background to the last one', async ({ page }) => {
  const firm = await make('company', { name: 'Very many docks', owner: 'rosa' })
  const rows = Array.from({ length: 230 }, (_, n) => `V-${n},Dock ${n},Very many docks,Sized,Rosa Amara`)
  const { id } = await post<{ id: number }>('/imports', {
    fileName: 'docks.csv',
    content: ['Reference,Name,Company,Stage,Owner', ...rows].join('\n'),
  })
  await post(`/imports/${id}/run`, { rulesOn: false })
  await expect
    .poll(async () => (await get<{ state: string }>(`/imports/${id}`)).state, { timeout: 60_000 })
    .toBe('done')
  await rule(
    written(
      {
        object: 'company',
        when: [['fieldChanges', { field: 'name', how: 'anything', from: null, to: null }]],
        then: [['eachLinked', { to: 'deal' }, [given('g1'), set('notes', 'Seen')]]],
      },
      'Each dock',
    ),
  )
  await patch(`/records/company/${firm}`, { values: { name: 'Very many docks, renamed' } })
  const last = async () =>
    (await get<{ lines: { id: number; ruleName: string; state: string }[] }>('/runs')).lines.find(
      (line) => line.ruleName === 'Each dock',
    )
  await expect.poll(async () => (await last())?.state, { timeout: 60_000 }).toBe('done')
  await open(page, `/journal/${(await last())?.id}`)
  await expect(page.locator('main')).toContainText('200 of 230 done, the rest follows in the background')
})

test('what was done by an API key names the key', async ({ playwright }) => {
  const { token } = await post<{ token: string }>('/account/tokens', { name: 'Dock scanner' })
  const deal = await make('deal', { name: 'Scanned', stage: 'hp-visit', owner: 'rosa' })
  const scanner = await playwright.request.newContext({
    baseURL: 'http://localhost:3133',
    extraHTTPHeaders: { authorization: `Bearer ${token}` },
    storageState: { cookies: [], origins: [] },
  })
  const written = await scanner.patch(`/api/v1/records/deal/${deal}`, { data: { values: { units: 9 } } })
  expect(written.ok(), await written.text()).toBe(true)
  const filter = all(condition('name', 'is', { value: 'Scanned' }))
  const edited = await scanner.post('/api/v1/bulk-edits', {
    data: { object: 'deal', filter, field: 'margin', value: 5 },
  })
  expect(edited.ok(), await edited.text()).toBe(true)
  await scanner.dispose()
  const { changes } = await get<{ changes: { doer: { name: string } }[] }>(`/records/deal/${deal}/fields/units`)
  expect(changes[0]?.doer.name).toBe('Ines Calloway, API key “Dock scanner”')
  const bulk = await get<{ changes: { doer: { name: string } }[] }>(`/records/deal/${deal}/fields/margin`)
  expect(bulk.changes[0]?.doer.name).toBe('Ines Calloway, API key “Dock scanner”')
})
