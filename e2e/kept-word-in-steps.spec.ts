import Database from 'better-sqlite3'
import { all, condition, daysBefore, document, enters, given, set, task } from '../core/testing/rules'
import { addDays } from '../core/time/dates'
import { expect, open, test } from './app'
import { ANEW, ownDemo } from './own-demo'
import { byApi } from './rules-by-api'

/** What the engine promises of steps, waits, floods and deliveries, tried over HTTP on a demo workspace of its own. */
const demo = ownDemo(3135)
const { api, get, post, make, dbFile, today } = demo
const { rule, draft, switchOn, save, patch, runs, tasksOf, values, turn } = byApi(demo)

const DAY_MS = 86_400_000
const formula = (field: string, text: string) => ['setField', { field, source: { from: 'formula', text } }] as const
const enter = async (name: string, stage: string, more: object = {}): Promise<number> => {
  const deal = await make('deal', { name, stage: 'hp-visit', owner: 'rosa', ...more })
  const moved = await patch(`/records/deal/${deal}`, { values: { stage } })
  expect(moved.ok(), await moved.text()).toBe(true)
  return deal
}

test('a formula that goes wrong fails its step with the reason, and empties nothing', async ({ page }) => {
  const id = await rule(
    document({ when: [enters('hp-quoted')], then: [formula('amount', 'amount / margin')] }, 'Per margin'),
  )
  const deal = await enter('No margin', 'hp-quoted', { amount: 1200, margin: 0 })
  expect((await values('deal', deal)).amount).toBe(1200)
  const [run] = await runs(id)
  expect(run).toMatchObject({ state: 'failed' })
  await open(page, `/journal/${run?.id}`)
  await expect(page.locator('main')).toContainText('it divides by zero')

  // Nothing came of it because a value is empty: that is no fault, and changes nothing either.
  const empty = await enter('Empty margin', 'hp-quoted', { amount: 900 })
  expect((await values('deal', empty)).amount).toBe(900)
  expect((await runs(id))[0]).toMatchObject({ state: 'done' })
})

test('a change that starts a rule in two ways runs it once', async () => {
  const filter = all(condition('amount', 'moreThan', { value: 77_000 }))
  const { id: segment } = await post<{ id: number }>('/segments', {
    object: 'deal',
    name: 'Over 77,000',
    filter,
    columns: [],
    sort: '',
    down: false,
  })
  const id = await rule(
    document(
      {
        when: [
          ['fieldChanges', { field: 'amount', how: 'past', from: null, to: 77_000 }],
          ['segmentEntered', { segment }],
        ],
        then: [task('Large now', { again: true })],
      },
      'Large now',
    ),
  )
  const deal = await make('deal', { name: 'Grows', stage: 'hp-visit', owner: 'rosa', amount: 10 })
  await patch(`/records/deal/${deal}`, { values: { amount: 80_000 } })
  expect((await tasksOf(deal)).filter((title) => title === 'Large now')).toHaveLength(1)
  expect(await runs(id)).toHaveLength(1)
})

test('a wait without a moment lets nothing through: it ends with the reason, and inside “each linked” it is refused', async () => {
  const until = {
    at: 'field',
    field: 'closeDate',
    side: 'before',
    amount: { count: 1, unit: 'days' },
    minute: 510,
  }
  const id = await rule(
    document(
      { when: [enters('hp-terms')], then: [['wait', { until, recheck: true, whenEmpty: 'stop' }], task('Behind it')] },
      'Day before close',
    ),
  )
  const deal = await enter('No close date', 'hp-terms')
  expect(await tasksOf(deal)).not.toContain('Behind it')
  expect((await runs(id))[0]?.outcome).toContain('Expected close is empty')

  const later = { until: { at: 'after', amount: { count: 2, unit: 'days' }, minute: null }, recheck: true }
  const inside = await draft(
    document(
      {
        object: 'company',
        when: [['fieldChanges', { field: 'name', how: 'anything', from: null, to: null }]],
        then: [['eachLinked', { to: 'deal' }, [given('g1'), ['wait', later], set('notes', 'Seen')]]],
      },
      'Waits inside',
    ),
  )
  const refused = await switchOn(inside)
  expect(refused.status()).toBe(422)
  expect(await refused.text()).toMatch(/can’t wait|can’t be used/i)
})

test('a date that was moved so far that its moment has passed ends what waits for it, and says so', async () => {
  const until = { at: 'field', field: 'closeDate', side: 'before', amount: { count: 1, unit: 'days' }, minute: 510 }
  const id = await rule(
    document(
      { when: [enters('hp-terms')], then: [['wait', { until, recheck: true, whenEmpty: 'stop' }], task('Too late')] },
      'Before close',
    ),
  )
  const day = await today()
  const deal = await enter('Moved back', 'hp-terms', { closeDate: addDays(day, 20) })
  expect((await runs(id))[0]?.state).toBe('waiting')
  await patch(`/records/deal/${deal}`, { values: { closeDate: addDays(day, -20) } })
  expect((await runs(id))[0]?.outcome).toContain('the date was moved; its moment')
  expect(await tasksOf(deal)).not.toContain('Too late')
})

test('what is no field in {{ }} is refused by name when a rule is switched on', async () => {
  for (const title of ['Ring {{name}}', 'Ring {{deal.expected close}}', 'Ring {{deal.name}']) {
    const id = await draft(document({ when: [enters('hp-quoted')], then: [task(title)] }, title))
    const refused = await switchOn(id)
    expect(refused.status(), title).toBe(422)
    expect(await refused.text()).toMatch(/\{\{/)
  }
})

test('new hours say what they move before they are saved, and move it', async () => {
  const day = await today()
  const id = await rule(document({ when: [daysBefore(3)], then: [task('Soon')] }, 'Three days before'))
  await make('deal', { name: 'Closes soon', stage: 'hp-visit', owner: 'rosa', closeDate: addDays(day, 9) })
  const dueMs = async () =>
    (await get<{ lines: { recordName: string; dueMs: number }[] }>(`/ahead?rule=${id}&limit=1000`)).lines.find(
      (line) => line.recordName === 'Closes soon',
    )?.dueMs
  const before = await dueMs()
  const week = { workdays: [1, 2, 3, 4, 5], opensAt: 540, closesAt: 1080, holidays: [] }
  const hours = { zone: 'Asia/Tokyo', ...week }
  const moves = await post<{ rules: { ruleName: string }[] }>('/hours/moves', hours)
  expect(moves.rules.map(({ ruleName }) => ruleName)).toContain('Three days before')
  expect(await dueMs()).toBe(before)
  const saved = await api().put('/api/v1/hours', { data: hours, ...ANEW })
  expect(saved.ok(), await saved.text()).toBe(true)
  await expect.poll(dueMs).not.toBe(before)
  await api().put('/api/v1/hours', { data: { ...hours, zone: 'Europe/Lisbon' }, ...ANEW })
  await expect.poll(dueMs).toBe(before)
})

test('existing records go through once, unless told otherwise', async () => {
  const id = await draft(
    document(
      {
        when: [enters('hp-sized')],
        onlyIf: all(condition('name', 'contains', { value: 'Standing dock' })),
        then: [task('Standing', { again: true })],
      },
      'Standing docks',
    ),
  )
  const deals: number[] = []
  for (const n of [1, 2, 3])
    deals.push(await make('deal', { name: `Standing dock ${n}`, stage: 'hp-sized', owner: 'rosa' }))
  const count = async () => (await Promise.all(deals.map(tasksOf))).flat().filter((one) => one === 'Standing').length
  expect((await switchOn(id, { backfill: true })).ok()).toBe(true)
  await expect.poll(count).toBe(3)
  await save(
    id,
    document(
      {
        when: [enters('hp-sized')],
        onlyIf: all(condition('name', 'contains', { value: 'Standing dock' })),
        then: [task('Standing', { again: true }), set('notes', 'once more')],
      },
      'Standing docks',
    ),
  )
  expect(await get(`/rules/${id}/existing`)).toMatchObject({ matching: 3, already: 3 })
  const again = await switchOn(id, { backfill: true })
  expect(again.ok(), await again.text()).toBe(true)
  await expect
    .poll(async () => (await get<{ jobs: { state: string }[] }>(`/rules/${id}/jobs`)).jobs.map(({ state }) => state))
    .not.toContain('running')
  expect(await count()).toBe(3)
})

test('what was given up is told, and its run can be tried again', async () => {
  const id = await rule(
    document({ when: [enters('hp-quoted')], then: [task('Told', { again: true, email: true })] }, 'Told by email'),
  )
  const db = new Database(dbFile())
  db.exec(`CREATE TRIGGER nobody_home BEFORE INSERT ON stand_in_mail
    BEGIN SELECT RAISE(ABORT, 'nobody answers at the mail server'); END`)
  db.close()
  await enter('Mail', 'hp-quoted')
  // The courier tries beside the clock: each turn makes the next try due, whenever the last one was over.
  await expect
    .poll(async () => {
      const state = (await runs(id))[0]?.state
      if (state !== 'failed') await turn((await get<{ nowMs: number }>('/clock')).nowMs + 7 * 3_600_000)
      return state
    })
    .toBe('failed')
  const { notices } = await get<{ notices: { subject: string }[] }>('/notifications')
  expect(notices.map(({ subject }) => subject).join()).toContain('was not delivered')
  const again = new Database(dbFile())
  again.exec('DROP TRIGGER nobody_home')
  again.close()
  const [run] = await runs(id)
  expect(await post('/run-retries', { ids: [run?.id] })).toMatchObject({ done: 1, failed: 0 })
})

test('a rule of the clock that would start for far too many pauses instead', async () => {
  const rows = Array.from({ length: 700 }, (_, n) => `F-${n},Flood ${n},Sized,Rosa Amara`)
  const { id: file } = await post<{ id: number }>('/imports', {
    fileName: 'flood.csv',
    content: ['Reference,Name,Stage,Owner', ...rows].join('\n'),
  })
  await post(`/imports/${file}/run`, { rulesOn: false })
  await expect.poll(async () => (await get<{ state: string }>(`/imports/${file}`)).state).toBe('done')
  const id = await rule(
    document(
      {
        when: [['recurring', { rule: { rule: 'FREQ=DAILY', from: await today() }, minute: 510, offDays: 'keep' }]],
        then: [task('Every day', { again: true })],
      },
      'Every day',
    ),
  )
  await turn((await get<{ nowMs: number }>('/clock')).nowMs + DAY_MS)
  const list = async () =>
    (await get<{ rules: { id: number; paused: boolean; runs: number }[] }>('/rules')).rules.find((one) => one.id === id)
  await expect.poll(async () => (await list())?.paused, { timeout: 60_000 }).toBe(true)
  expect((await list())?.runs).toBeLessThan(1000)
})
