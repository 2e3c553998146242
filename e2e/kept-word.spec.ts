import Database from 'better-sqlite3'
import { expect, open, test } from './app'
import { ANEW, ownDemo } from './own-demo'

/** What the engine promises, tried over HTTP on a demo workspace of its own, whose file is tampered with. */
const { api, get, post, make, dbFile } = ownDemo(3133)

const ENTERS = (stage: string) => ({ id: 't1', kind: 'entersStage', params: { stage } })
const TASK = (id: string, title: string) => ({
  id,
  kind: 'createTask',
  params: {
    title,
    notes: '',
    taskKind: 'call',
    priority: 'normal',
    due: { at: 'today' },
    again: true,
    email: false,
  },
})

interface Rule {
  readonly id: number
  readonly draftRev: number
  readonly draft: object
  readonly unreadable: string | null
}
async function task(title: string): Promise<object> {
  // As a step that is there has it, so that this test knows nothing of how tasks are said.
  const { rules } = await get<{ rules: { id: number }[] }>('/rules')
  for (const { id } of rules) {
    const { draft } = await get<{ draft: { steps: { kind: string; params: object }[] } }>(`/rules/${id}`)
    const found = draft.steps.find((step) => step.kind === 'createTask')
    if (found) return { ...found.params, title, later: undefined, again: true }
  }
  return TASK('', title).params
}
async function rule(name: string, object: string, triggers: object[], steps: object[]): Promise<number> {
  const { id } = await post<{ id: number }>('/rules', { name, object })
  const document = {
    format: 2,
    name,
    description: '',
    object,
    triggers,
    conditions: { kind: 'group', id: 'c0', mode: 'all', items: [] },
    steps,
  }
  const saved = await api().put(`/api/v1/rules/${id}/draft`, { data: { document, rev: 1 }, ...ANEW })
  expect(saved.ok(), await saved.text()).toBe(true)
  await post(`/rules/${id}/state`, { state: 'on', anyway: true })
  return id
}
const patch = async (path: string, data: object) => await api().patch(`/api/v1${path}`, { data, ...ANEW })
const tasksOf = async (id: number) =>
  (await get<{ timeline: { what: string; task?: { title: string } }[] }>(`/records/deal/${id}`)).timeline.flatMap(
    (line) => (line.what === 'task' && line.task ? [line.task.title] : []),
  )

test('one rule that cannot be read stops nothing else, says where and why, and runs again once published', async ({
  page,
}) => {
  const odd = await rule(
    'Teleports',
    'deal',
    [ENTERS('hp-quoted')],
    [{ id: 's1', kind: 'createTask', params: await task('Odd') }],
  )
  await rule('Stays', 'deal', [ENTERS('hp-quoted')], [{ id: 's1', kind: 'createTask', params: await task('Good') }])
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
  const { draftRev, draft } = await get<Rule>(`/rules/${odd}`)
  const again = await api().put(`/api/v1/rules/${odd}/draft`, {
    data: { document: { ...draft, description: 'Mended' }, rev: draftRev },
    ...ANEW,
  })
  expect(again.ok(), await again.text()).toBe(true)
  await post(`/rules/${odd}/state`, { state: 'on', anyway: true })
  expect((await get<Rule>(`/rules/${odd}`)).unreadable).toBeNull()
  const other = await make('deal', { name: 'Dock 2', stage: 'hp-visit', owner: 'rosa' })
  await patch(`/records/deal/${other}`, { values: { stage: 'hp-quoted' } })
  expect((await tasksOf(other)).sort()).toEqual(expect.arrayContaining(['Good', 'Odd']))
})

test('a field that a waiting run still needs cannot be archived, although no rule names it any more', async () => {
  const field = await post<{ id: number; key: string }>('/fields', { object: 'deal', label: 'Ramp', type: 'number' })
  const { key } = field.key ? field : { key: 'ramp' }
  const slow = await rule(
    'Slow ramp',
    'deal',
    [ENTERS('hp-terms')],
    [
      {
        id: 's1',
        kind: 'wait',
        params: { until: { at: 'after', amount: { count: 3, unit: 'days' }, minute: null }, recheck: false },
      },
      { id: 's2', kind: 'setField', params: { field: key, source: { from: 'value', value: 4 } } },
    ],
  )
  const deal = await make('deal', { name: 'Ramp', stage: 'hp-visit', owner: 'rosa' })
  await patch(`/records/deal/${deal}`, { values: { stage: 'hp-terms' } })
  const { draftRev, draft } = await get<Rule>(`/rules/${slow}`)
  await api().put(`/api/v1/rules/${slow}/draft`, {
    data: {
      document: { ...draft, steps: [{ id: 's9', kind: 'createTask', params: await task('Other') }] },
      rev: draftRev,
    },
    ...ANEW,
  })
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
    'Each dock',
    'company',
    [{ id: 't1', kind: 'fieldChanges', params: { field: 'name', how: 'anything', from: null, to: null } }],
    [
      {
        id: 's1',
        kind: 'eachLinked',
        params: { to: 'deal' },
        branches: [
          {
            id: 'b1',
            when: { kind: 'group', id: 'g1', mode: 'all', items: [] },
            steps: [
              { id: 's2', kind: 'setField', params: { field: 'notes', source: { from: 'value', value: 'Seen' } } },
            ],
          },
        ],
      },
    ],
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
  await scanner.dispose()
  const { changes } = await get<{ changes: { doer: { name: string } }[] }>(`/records/deal/${deal}/fields/units`)
  expect(changes[0]?.doer.name).toBe('Ines Calloway, API key “Dock scanner”')
})
