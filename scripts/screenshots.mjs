// Makes the pictures in docs/screenshots from a demo workspace of its own, in both themes. Needs a build ("npm run build").
import { spawn, spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { chromium } from '@playwright/test'

const PORT = '3118'
const base = `http://localhost:${PORT}`
const env = { ...process.env, PORT, SKY_LEVER_DB: '.data/pictures.db' }
if (spawnSync('node', ['scripts/bundled.mjs', 'demo/fill.ts', '--fresh'], { env, stdio: 'inherit' }).status !== 0) process.exit(1)
const server = spawn('node', ['.output/server/index.mjs'], { env, stdio: 'inherit' })

let cookie = ''
async function api(path, method = 'GET', body = undefined) {
  const answer = await fetch(`${base}/api/v1${path}`, { method, headers: { 'content-type': 'application/json', cookie }, body: body && JSON.stringify(body) })
  cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? cookie
  if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${await answer.text()}`)
  return answer.json()
}

async function ready() {
  for (let tries = 0; tries < 100; tries++) {
    if (await fetch(`${base}/api/v1/session`).then((answer) => answer.ok, () => false)) return
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
  // A large file, with some rows that are refused, stopped in the middle of being written.
  const rows = Array.from({ length: 24_000 }, (_, i) => `LARGE-${i};Cold room ${i};${i % 9 === 4 && i < 60 ? 'Somewhere' : 'Site visit'};${['Rosa Amara', 'Jude Okell', 'Nobody Known'][i < 40 ? i % 3 : i % 2]};${i % 7 === 3 && i < 40 ? 'much' : 900 + i}`)
  const { id: largeId } = await api('/imports', 'POST', { fileName: 'catalogue-mailing-2026.csv', content: ['Reference;Name;Stage;Owner;Amount', ...rows].join('\n') })
  const underWay = async (page) => {
    await page.locator('[data-bring]').click()
    await page.waitForFunction(() => Number(document.querySelector('[role=progressbar]')?.getAttribute('aria-valuenow')) >= 12)
  }
  const { lines } = await api('/runs')
  const run = lines.find((line) => line.ruleName === 'Signed')
  const [moving] = (await dealIn('hp-sized')).filter((line) => line.amount > 40_000)

  const views = [
    { name: 'api', path: '/reference' },
    { name: 'records', path: '/records/deals?segment=1' },
    { name: 'fields', path: '/fields', then: async (page) => { await page.getByRole('button', { name: 'Kind', exact: true }).click() } },
    { name: 'rules', dark: true, path: '/rules' },
    { name: 'rule-sheet', dark: true, path: '/rules/10', then: async (page) => { await page.locator('[data-see]').nth(4).click(); await page.getByText('✗ fails').first().waitFor() } },
    {
      name: 'board', dark: true, path: '/boards/hp',
      then: async (page, theme) => {
        if (theme === 'light') await page.evaluate(([id]) => fetch(`/api/v1/records/deal/${id}`, { method: 'PATCH', headers: { 'content-type': 'application/json' }, body: '{"values":{"stage":"hp-quoted"}}' }), [moving.id])
        if (theme === 'light') await page.locator('[data-did]').first().waitFor()
        // The line slides to its new place; the picture is taken when it has come to rest.
        await page.waitForFunction(() => document.getAnimations().length === 0)
      },
    },
    { name: 'day-sheet', dark: true, path: '/day-sheet?person=jude' },
    { name: 'record', dark: true, path: `/records/deals/${run.ref.id}` },
    { name: 'journal', dark: true, path: '/journal' },
    { name: 'paths', path: '/rules/13', then: async (page) => { await page.locator('[data-see]').nth(2).click(); await page.getByText('only the way it goes').waitFor() } },
    { name: 'import', path: `/data/${importId}` },
    { name: 'import-under-way', path: `/data/${largeId}`, then: underWay },
  ]
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
  })
  for (const theme of ['light', 'dark']) {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, colorScheme: theme, reducedMotion: 'reduce' })
    const page = await context.newPage()
    if (theme === 'light') {
      await page.goto(base)
      await page.getByRole('heading', { name: 'A demo: come in as anybody' }).waitFor()
      await page.screenshot({ path: 'docs/screenshots/sign-in.png' })
    }
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
