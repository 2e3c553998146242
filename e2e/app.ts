import { test as base, expect, type APIRequestContext, type Page } from '@playwright/test'
import { BASE, signedInAt, WORKER } from './address'

/**
 * Runs in the page: an act that leaves the focus on the page itself is said in the console, which has to stay empty.
 */
function watchFocus(): void {
  let waits: ReturnType<typeof setTimeout> | undefined
  const act = ({ key }: KeyboardEvent): void => {
    const asked = document.activeElement
    clearTimeout(waits)
    if (asked === null || asked === document.body) return
    const where = location.pathname
    waits = setTimeout(() => {
      if (document.activeElement === document.body && location.pathname === where && document.hasFocus())
        console.error(`the focus fell to the page after ${key}: it was on ${asked.outerHTML.slice(0, 160)}`)
    }, 1500)
  }
  addEventListener('keydown', act, { capture: true })
  // Who presses beside everything wants the focus nowhere; who chooses elsewhere without pressing has gone there.
  addEventListener('pointerdown', () => clearTimeout(waits), { capture: true })
  const elsewhere = ({ target }: Event): void => {
    if (target !== document.activeElement) clearTimeout(waits)
  }
  addEventListener('change', elsewhere, { capture: true })
}

/** Runs in the page: what was told of an earlier test is none of the next one's. */
function clearNotices(): void {
  for (const close of document.querySelectorAll<HTMLElement>('[data-notice] button[aria-label="Dismiss"]'))
    close.click()
}

/** With whom each test begins. */
const SPECIALIST = 'ines'

/** For a test that does something to its page which would stay: `test('…', OWN_PAGE, async …)`. */
export const OWN_PAGE = { annotation: { type: 'a page of its own' } }

/** The page with which the tests of a file go on; `null` where the next one begins with a new one. */
interface Going {
  of: string
  page: Page | null
}

/** Runs in the page: whom its app takes the one before it for; `null` where there is no app. */
function shownFor(): string | null {
  interface App {
    readonly config: {
      readonly globalProperties: {
        readonly $pinia: { readonly state: { readonly value: Readonly<Record<string, { facts?: { me: string } }>> } }
      }
    }
  }
  const root = document.querySelector('#__nuxt')
  const app = root && '__vue_app__' in root ? (root.__vue_app__ as App) : null
  return app?.config.globalProperties.$pinia.state.value.catalogue?.facts?.me ?? null
}

/** Whether the one who signed in at the beginning is still the one who is, for the server and on the page. */
async function isSameOne(page: Page): Promise<boolean> {
  if (![null, SPECIALIST].includes(await page.evaluate(shownFor))) return false
  const answer = await page.request.get('/api/v1/session').catch(() => null)
  return answer?.ok() === true && ((await answer.json()) as { person: string | null }).person === SPECIALIST
}

/**
 * A page that fails its test when the console says anything it should not. It goes from test to test of a file, as that
 * of somebody who works all day does: to begin with a new one each time takes as long as many a test.
 */
export const test = base.extend<{ quiet: readonly string[] }, { going: Going }>({
  baseURL: BASE,
  storageState: signedInAt(WORKER),
  going: [
    async ({ browser }, use) => {
      const going: Going = { of: '', page: null }
      await use(going)
      if (browser.isConnected()) await going.page?.context().close()
    },
    { scope: 'worker' },
  ],
  page: async ({ going, browser, baseURL, storageState, viewport, timezoneId }, use, info) => {
    const own = info.annotations.some(({ type }) => type === OWN_PAGE.annotation.type)
    const of = JSON.stringify([info.file, baseURL, storageState, timezoneId, own ? info.testId : ''])
    if (going.page && going.of !== of) {
      await going.page.context().close()
      going.page = null
    }
    if (!going.page) {
      const context = await browser.newContext({ baseURL, storageState, viewport, timezoneId })
      going.page = await context.newPage()
      going.of = of
      await going.page.addInitScript(watchFocus)
    }
    const { page } = going
    if (viewport) await page.setViewportSize(viewport)
    await page.emulateMedia({ colorScheme: null, reducedMotion: null, forcedColors: null })
    await page.evaluate(clearNotices)
    await use(page)
    await page.unrouteAll({ behavior: 'ignoreErrors' })
    page.removeAllListeners('dialog').removeAllListeners('console').removeAllListeners('pageerror')
    // What went wrong, or ended as somebody else, is not gone on with.
    if (own || info.status !== info.expectedStatus || page.isClosed() || !(await isSameOne(page))) {
      await page.context().close()
      going.page = null
    }
  },
  context: async ({ page }, use) => {
    await use(page.context())
  },
  quiet: [
    async ({ page }, use) => {
      const said: string[] = []
      // Slowed down so many times: where a test does not wait for what it needs, it shows here before a busy host finds
      // it.
      if (process.env.E2E_SLOW) {
        const session = await page.context().newCDPSession(page)
        await session.send('Emulation.setCPUThrottlingRate', { rate: Number(process.env.E2E_SLOW) })
      }
      page.on('console', (message) => {
        if (message.type() === 'error' || message.type() === 'warning')
          said.push(`${message.type()}: ${message.text()}`)
      })
      page.on('pageerror', (error) => said.push(`uncaught: ${error.message}`))
      await use(said)
      // Answers that refuse are part of what is tested; the browser notes each of them in the console.
      expect(
        said.filter(
          (line) =>
            !/status of (401|403|409|412|422)|caught during app initialization.* may not /.test(line) &&
            // Letters stand in frames that run nothing: not even what a test brings along.
            !line.includes("Blocked script execution in 'about:srcdoc'"),
        ),
        'the console stays empty',
      ).toEqual([])
    },
    { auto: true },
  ],
})

export { expect }

/** Runs in the page: goes elsewhere as a link does. Answers whether there was an app to go within, and it let go. */
async function goWithin(path: string): Promise<boolean> {
  interface App {
    readonly $nuxt: {
      readonly $router: { readonly push: (to: string) => Promise<unknown> }
      readonly hooks: { readonly hookOnce: (name: 'page:finish', then: () => void) => () => void }
    }
  }
  const root = document.querySelector('#__nuxt')
  const app = root && '__vue_app__' in root ? (root.__vue_app__ as App) : null
  // Who asks for the page that is shown wants it anew.
  if (!app || new URL(path, location.href).pathname === location.pathname) return false
  const { $router, hooks } = app.$nuxt
  let stay: () => void = () => undefined
  const finished = new Promise<boolean>((resolve) => {
    stay = hooks.hookOnce('page:finish', () => resolve(true))
  })
  // What the test before this one left unsaved is not asked about.
  const discard = setInterval(() => document.querySelector<HTMLElement>('[data-discard]')?.click(), 50)
  const failed = await $router.push(path)
  clearInterval(discard)
  if (failed) {
    stay()
    return false
  }
  await finished
  // The heading gets the focus with the next frame.
  await new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)))
  return true
}

/** Opens a page as a browser does that begins with it, and waits until it hears what changes: it is ready then. */
export async function load(page: Page, path: string): Promise<void> {
  await page.goto(path)
  await page.waitForFunction(() => document.documentElement.dataset.live === 'yes')
}

/** Opens a page: the first of a test as `load` does, others as a link does. */
export async function open(page: Page, path: string): Promise<void> {
  if (page.url() === 'about:blank' || !(await page.evaluate(goWithin, path))) await load(page, path)
}

/** Opens what stands at its usual value behind the quiet "…" of a line, as somebody does who means to change it. */
export async function unfold(page: Page, line: string): Promise<void> {
  await page.locator(`[data-line="${line}"] [data-usual]`).click()
}

/** The same for what is said of the whole rule, below its triggers. */
export async function unfoldRule(page: Page): Promise<void> {
  await page.getByRole('region', { name: 'When' }).locator('p > [data-usual]').click()
}

interface Found {
  readonly rows: readonly { readonly id: number; readonly values: Readonly<Record<string, unknown>> }[]
  readonly next: string | null
}

const is = (field: string, value: unknown) => ({
  kind: 'condition',
  id: `c-${field}`,
  field,
  op: 'is',
  not: false,
  params: { value },
})

/** Deals whose fields hold these values, at most two hundred. */
export async function deals(
  request: APIRequestContext,
  values: Readonly<Record<string, unknown>>,
): Promise<Found['rows']> {
  const filter = JSON.stringify({
    kind: 'group',
    id: 'c0',
    mode: 'all',
    items: Object.entries(values).map(([field, value]) => is(field, value)),
  })
  const rows: Found['rows'][number][] = []
  for (let cursor: string | null = ''; cursor !== null && rows.length < 200;) {
    const answer = await request.get('/api/v1/records/deal', {
      params: { filter, limit: 200 - rows.length, ...(cursor ? { cursor } : {}) },
    })
    expect(answer.ok()).toBe(true)
    const page = (await answer.json()) as Found
    rows.push(...page.rows)
    cursor = page.next
  }
  return rows
}

let made = 0

/** A deal of one's own, so that no test depends on what another did. */
export async function newDeal(
  request: APIRequestContext,
  values: Readonly<Record<string, unknown>>,
): Promise<{ readonly id: number; readonly name: string }> {
  const name = `Probe ${process.pid}-${++made}`
  const answer = await request.post('/api/v1/records/deal', {
    data: { values: { name, stage: 'hp-sized', owner: 'rosa', ...values } },
  })
  expect(answer.ok(), await answer.text()).toBe(true)
  return { id: ((await answer.json()) as { ref: { id: number } }).ref.id, name }
}

export interface RuleParts {
  readonly triggers: readonly unknown[]
  readonly conditions?: readonly unknown[]
  readonly steps: readonly unknown[]
}

/** A rule made through the API and switched on. */
export async function newRule(request: APIRequestContext, name: string, parts: RuleParts): Promise<number> {
  const { id } = (await (await request.post('/api/v1/rules', { data: { name, object: 'deal' } })).json()) as {
    id: number
  }
  const document = {
    format: 2,
    name,
    description: '',
    object: 'deal',
    triggers: parts.triggers,
    steps: parts.steps,
    conditions: { kind: 'group', id: 'c0', mode: 'all', items: parts.conditions ?? [] },
  }
  const saved = await request.put(`/api/v1/rules/${id}/draft`, { data: { document, rev: 1 } })
  expect(saved.ok(), await saved.text()).toBe(true)
  await setRule(request, id, 'on')
  return id
}

export async function setRule(request: APIRequestContext, id: number, state: 'on' | 'off' | 'archived'): Promise<void> {
  const answer = await request.post(`/api/v1/rules/${id}/state`, { data: { state } })
  expect(answer.ok(), await answer.text()).toBe(true)
}

/**
 * Rules of a test file are put away after each test: others count which rules name a stage, and what runs. `keep` takes
 * in one that was made otherwise.
 */
export function ownRules(): { readonly newRule: typeof newRule; readonly keep: (id: number) => void } {
  const mine: number[] = []
  test.afterEach(async ({ request }) => {
    for (const id of mine.splice(0)) await setRule(request, id, 'archived')
  })
  return {
    keep: (id) => {
      mine.push(id)
    },
    async newRule(request, name, parts) {
      const id = await newRule(request, name, parts)
      mine.push(id)
      return id
    },
  }
}
