// Makes the pictures in docs/screenshots from a demo workspace of its own, in both themes. Needs a build ("npm run
// build").
import { spawn, spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { chromium } from '@playwright/test'

const PORT = '3118'
const base = `http://localhost:${PORT}`
const env = { ...process.env, PORT, SKY_LEVER_DB: '.data/pictures.db' }
if (spawnSync('node', ['scripts/bundled.mjs', 'demo/fill.ts', '--fresh'], { env, stdio: 'inherit' }).status !== 0)
  process.exit(1)
const server = spawn('node', ['.output/server/index.mjs'], { env, stdio: 'inherit' })

/** A rule that is switched on in the picture of what that brings. */
const FORECAST = {
  format: 2,
  name: 'Look in on large deals',
  description: '',
  object: 'deal',
  triggers: [
    { id: 't1', kind: 'segmentEntered', params: { segment: 1 } },
    {
      id: 't2',
      kind: 'recurring',
      params: { rule: { rule: 'FREQ=WEEKLY;BYDAY=MO', from: '2026-01-05' }, minute: 540, offDays: 'next' },
    },
  ],
  conditions: {
    kind: 'group',
    id: 'c0',
    mode: 'all',
    items: [{ kind: 'condition', id: 'c1', field: 'amount', op: 'moreThan', not: false, params: { value: 20_000 } }],
  },
  steps: [
    {
      id: 's1',
      kind: 'createTask',
      params: {
        title: 'Look in on {{deal.name}}',
        notes: '',
        taskKind: 'call',
        due: { count: 1, unit: 'workdays' },
        priority: 'normal',
        again: false,
        email: false,
      },
    },
  ],
}

/** A rule that waits for a task, with a path for each end, and gives the record that it makes steps of its own. */
const task = (title, more) => ({
  title,
  notes: '',
  taskKind: 'call',
  due: { count: 1, unit: 'workdays' },
  priority: 'normal',
  again: false,
  email: false,
  ...more,
})
const TWO_ENDS = {
  format: 2,
  name: 'Thin margin: ring first',
  description: '',
  object: 'deal',
  folder: 'Deals',
  labels: ['margin'],
  triggers: [{ id: 't1', kind: 'fieldChanges', params: { field: 'amount', how: 'past', from: null, to: 20_000 } }],
  conditions: {
    kind: 'group',
    id: 'c0',
    mode: 'all',
    items: [
      { kind: 'formula', id: 'c1', not: false, text: 'margin < 0.2 * amount' },
      { kind: 'inSegment', id: 'c2', not: true, segment: 1 },
    ],
  },
  steps: [
    {
      id: 's1',
      kind: 'taskAndWait',
      params: task('Ring about {{deal.name}}', { most: { count: 3, unit: 'workdays' }, recheck: true }),
      branches: [
        {
          id: 'b1',
          steps: [
            { id: 's2', kind: 'setField', params: { field: 'notes', source: { from: 'field', field: 's1.outcome' } } },
          ],
        },
        {
          id: 'b2',
          steps: [
            { id: 's3', kind: 'createTask', params: task('Nobody rang about {{deal.name}}', { priority: 'high' }) },
          ],
        },
      ],
    },
    {
      id: 's4',
      kind: 'createRecord',
      params: {
        make: 'deal',
        name: 'Service for {{deal.name}}',
        stage: 'hp-visit',
        again: false,
        beside: 'company',
        alike: null,
      },
      branches: [
        {
          id: 'b3',
          steps: [
            { id: 's5', kind: 'setField', params: { field: 'kind', source: { from: 'value', value: 'service' } } },
          ],
        },
      ],
    },
  ],
}

let cookie = ''
async function api(path, method = 'GET', body = undefined) {
  const answer = await fetch(`${base}/api/v1${path}`, {
    method,
    headers: { 'content-type': 'application/json', cookie },
    body: body && JSON.stringify(body),
  })
  cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? cookie
  if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${await answer.text()}`)
  return answer.json()
}

async function ready() {
  for (let tries = 0; tries < 100; tries++) {
    if (
      await fetch(`${base}/api/v1/session`).then(
        (answer) => answer.ok,
        () => false,
      )
    )
      return
    await new Promise((resolve) => setTimeout(resolve, 200))
  }
  throw new Error('the server did not start')
}

const dealIn = async (stage) => {
  const { stages } = await api('/boards/hp')
  return stages.find((one) => one.stage.id === stage).lines
}

try {
  await ready()
  await api('/session/demo', 'POST', { personId: 'ines' })
  const file = readFileSync('e2e/files/odd.csv', 'utf8')
  const { id: importId } = await api('/imports', 'POST', { fileName: 'enquiries-november.csv', content: file })
  const { lines } = await api('/runs')
  const run = lines.find((line) => line.ruleName === 'Deal signed: say thank you')
  const [moving] = (await dealIn('hp-sized')).filter((line) => line.amount > 40_000)

  const { rules } = await api('/rules')
  const idCalled = (name) => rules.find((rule) => rule.name === name).id
  const ruleCalled = (name) => `/rules/${idCalled(name)}`
  // A draft that says another number of days than the version that runs.
  const hygiene = idCalled('Hygiene certificate expires in 45 days')
  const { draft: certificate, draftRev: certificateRev } = await api(`/rules/${hygiene}`)
  await api(`/rules/${hygiene}/draft`, 'PUT', {
    document: {
      ...certificate,
      triggers: certificate.triggers.map((trigger) => ({
        ...trigger,
        params: { ...trigger.params, amount: { count: 60, unit: 'days' } },
      })),
    },
    rev: certificateRev,
  })

  const views = [
    { name: 'records', path: '/records/deals?segment=1' },
    { name: 'rules', path: '/rules' },
    {
      name: 'rule-sheet',
      path: '/rules/10',
      then: async (page) => {
        await page.locator('[data-see]').nth(4).click()
        await page.getByText('✗ not true').first().waitFor()
      },
    },
    {
      name: 'board',
      path: '/boards/hp',
      then: async (page, theme) => {
        if (theme === 'light')
          await page.evaluate(
            ([id]) =>
              fetch(`/api/v1/records/deal/${id}`, {
                method: 'PATCH',
                headers: { 'content-type': 'application/json' },
                body: '{"values":{"stage":"hp-quoted"}}',
              }),
            [moving.id],
          )
        if (theme === 'light') await page.locator('[data-did]').first().waitFor()
        // The line slides to its new place; the picture is taken when it has come to rest.
        await page.waitForFunction(() => document.getAnimations().length === 0)
      },
    },
    { name: 'day-sheet', path: '/day-sheet?person=jude' },
    { name: 'record', dark: true, path: `/records/deals/${run.ref.id}` },
    { name: 'journal', path: '/journal' },
    {
      name: 'decision-table',
      path: ruleCalled('Renewal signed: choose a gift'),
      then: async (page) => {
        await page.locator('[data-holes]').waitFor()
      },
    },
    { name: 'preflight', path: '/preflight' },
    {
      name: 'date-rule',
      path: ruleCalled('Contract ends in 300 days: plan two reviews'),
      then: async (page) => {
        await page.locator('[data-moments]').waitFor()
      },
    },
    { name: 'ahead', path: '/ahead' },
    { name: 'rates', path: '/data/rates' },
    {
      name: 'rehearsal',
      path: `/rehearsal?rules=${idCalled('Hygiene certificate expires in 45 days')}&go=1&compare=1`,
      then: async (page) => {
        await page.locator('[data-compared]').waitFor()
      },
    },
    { name: 'import', path: `/data/${importId}` },
    {
      name: 'formula',
      path: '/calculated-fields?of=deals',
      then: async (page) => {
        await page.getByLabel('Name', { exact: true }).fill('Days until the close')
        await page.locator('[data-formula]').click()
        await page.keyboard.type('closeDate - today()')
        await page.keyboard.press('Escape')
        await page.locator('[data-reading]').waitFor()
      },
    },
    {
      name: 'scorecard',
      path: '/scorecards',
      then: async (page) => {
        await page.getByLabel('Points of line 1').fill('12')
        await page.keyboard.press('Tab')
        await page.getByText('→ Keen').first().waitFor()
      },
    },
    {
      // This one and the next come last: they leave a rule behind.
      name: 'two-ends',
      path: '/rules',
      then: async (page) => {
        const { id } = await api('/rules', 'POST', { name: TWO_ENDS.name, object: TWO_ENDS.object })
        await api(`/rules/${id}/draft`, 'PUT', { document: TWO_ENDS, rev: 1 })
        await page.goto(`${base}/rules/${id}`)
        await page.locator('html[data-live=yes]').waitFor()
        await page.getByText('deals match').waitFor()
      },
    },
    {
      name: 'forecast',
      path: '/rules',
      then: async (page) => {
        const { id } = await api('/rules', 'POST', { name: FORECAST.name, object: FORECAST.object })
        await api(`/rules/${id}/draft`, 'PUT', { document: FORECAST, rev: 1 })
        await page.goto(`${base}/rules/${id}`)
        await page.locator('html[data-live=yes]').waitFor()
        await page.locator('[data-switch-on]').click()
        await page.locator('[data-through]').check()
        await page.locator('[data-forecast-sum]', { hasText: 'runs' }).waitFor()
        // The one without the existing records may still stand there.
        await page.waitForTimeout(1500)
      },
    },
  ]
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  })
  for (const theme of ['light', 'dark']) {
    const context = await browser.newContext({
      viewport: { width: 1280, height: 800 },
      colorScheme: theme,
      reducedMotion: 'reduce',
    })
    const page = await context.newPage()
    const [name, value] = cookie.split('=')
    await context.addCookies([{ name, value, url: base }])
    for (const { name: view, path, then, dark } of views) {
      if (!dark && theme === 'dark') continue
      await page.goto(base + path)
      await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
      await page.waitForLoadState('networkidle', { timeout: 1500 }).catch(() => undefined)
      await page.evaluate(() => document.fonts.ready)
      await then?.(page, theme)
      await page.screenshot({ path: `docs/screenshots/${view}${theme === 'dark' ? '-dark' : ''}.png` })
    }
    await context.close()
  }
  await browser.close()
} finally {
  server.kill()
}
