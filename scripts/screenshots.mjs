// Makes the pictures in docs/screenshots from a demo workspace of its own. Needs a build ("npm run
// build").
import { spawn, spawnSync } from 'node:child_process'
import { chromium } from '@playwright/test'

const PORT = '3118'
const base = `http://localhost:${PORT}`
const env = { ...process.env, PORT, SKY_LEVER_DB: '.data/pictures.db' }
if (spawnSync('node', ['scripts/bundled.mjs', 'demo/fill.ts', '--fresh'], { env, stdio: 'inherit' }).status !== 0)
  process.exit(1)
const server = spawn('node', ['.output/server/index.mjs'], { env, stdio: 'inherit' })

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

  const { messages } = await api('/simulated-messages')
  const answered = messages.find((one) => one.answers.length > 0)
  // One call rings, another one was made.
  const phoned = (await dealIn('hp-terms')).slice(0, 2)
  const calling = rules.find((rule) => rule.name.startsWith('Call the customer'))
  const now = new Date((await api('/clock')).nowMs)
  now.setUTCHours(10, 0, 0, 0)
  while (now.getTime() <= Date.now() || now.getUTCDay() === 0) now.setUTCDate(now.getUTCDate() + 1)
  await api('/clock', 'POST', { toMs: now.getTime() })
  while ((await api('/clock')).nowMs < now.getTime()) await new Promise((resolve) => setTimeout(resolve, 300))
  for (const { id } of phoned)
    await api(`/records/deal/${id}/manual-runs`, 'POST', { rule: calling.id, trigger: 't1', answers: {} })
  let calls = []
  for (let tries = 0; tries < 50 && calls.length < 2; tries++) {
    await new Promise((resolve) => setTimeout(resolve, 200))
    ;({ calls } = await api('/simulated-calls'))
  }
  if (calls[1])
    await api('/simulated-calls', 'POST', {
      key: calls[1].key,
      result: { outcome: 'finished', ended: 'interested', notes: 'Two units from May.', minutes: 7 },
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
      then: async (page) => {
        await page.evaluate(
          ([id]) =>
            fetch(`/api/v1/records/deal/${id}`, {
              method: 'PATCH',
              headers: { 'content-type': 'application/json' },
              body: '{"values":{"stage":"hp-quoted"}}',
            }),
          [moving.id],
        )
        await page.locator('[data-did]').first().waitFor()
        // The line slides to its new place; the picture is taken when it has come to rest.
        await page.waitForFunction(() => document.getAnimations().length === 0)
      },
    },
    {
      name: 'day-sheet',
      path: '/day-sheet?person=maren',
      then: async (page) => {
        await page
          .getByRole('button', { name: /Approve the quote/ })
          .first()
          .click()
      },
    },
    { name: 'record', path: `/records/deals/${run.ref.id}` },
    { name: 'journal', path: '/journal' },
    {
      name: 'decision-table',
      path: ruleCalled('Renewal signed: choose a gift'),
      then: async (page) => {
        await page.locator('[data-holes]').waitFor()
      },
    },
    { name: 'preflight', path: '/preflight' },
    { name: 'ahead', path: '/ahead' },
    {
      name: 'rehearsal',
      path: `/rehearsal?rules=${idCalled('Hygiene certificate expires in 45 days')}&go=1&compare=1`,
      then: async (page) => {
        await page.locator('[data-compared]').waitFor()
      },
    },
    {
      name: 'conversation',
      path: `/records/contacts/${answered.contactId}?show=messages`,
      then: async (page) => {
        await page.locator('[data-message]').first().waitFor()
      },
    },
    {
      name: 'call-paths',
      path: ruleCalled('Call the customer: a path for each way it went'),
      then: async (page) => {
        await page.getByText('take the path for its').first().scrollIntoViewIfNeeded()
        await page
          .getByText('take the path for its')
          .first()
          .evaluate((words) => words.scrollIntoView({ block: 'start' }))
      },
    },
    { name: 'phone', path: '/messages/phone' },
    {
      name: 'overview',
      path: '/overview',
      then: (page) => page.getByText('things that people do again').waitFor({ timeout: 20_000 }),
    },
    {
      name: 'results',
      path: `/results/${idCalled('Quote not answered: call')}`,
      then: (page) => page.locator('[data-chart] svg').waitFor(),
    },
    { name: 'problems', path: '/problems' },
    {
      name: 'suggestion',
      path: '/suggestions',
      then: (page) => page.getByRole('button', { name: 'Which records' }).first().click(),
    },
    {
      name: 'web-requests',
      path: '/messages/web',
      then: async (page) => {
        await page.locator('[data-web-request] button').first().click()
      },
    },
  ]
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium-headless-shell',
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
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce' })
  const page = await context.newPage()
  const [name, value] = cookie.split('=')
  await context.addCookies([{ name, value, url: base }])
  for (const { name: view, path, then } of views) {
    await page.goto(base + path)
    await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
    await page.waitForLoadState('networkidle', { timeout: 1500 }).catch(() => undefined)
    await page.evaluate(() => document.fonts.ready)
    await then?.(page)
    await page.screenshot({ path: `docs/screenshots/${view}.png` })
  }
  await browser.close()
} finally {
  server.kill()
}
