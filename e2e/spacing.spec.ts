import { expect, open, test } from './app'
import type { Page } from '@playwright/test'

/**
 * Text as somebody may set it for themselves: WCAG 2.2, 1.4.12 "Text Spacing" (line height 1.5, 2 between paragraphs,
 * letters 0.12 and words 0.16 apart), and colours of the system's own.
 */
const SPACING = `* { line-height: 1.5 !important; letter-spacing: 0.12em !important; word-spacing: 0.16em !important; }
p { margin-bottom: 2em !important; }`

/** Parts of the page that cut off what they hold, with how they begin. */
const cut = (page: Page): Promise<readonly string[]> =>
  page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('body *')].flatMap((one) => {
      const style = getComputedStyle(one)
      if (style.overflowY !== 'hidden' && style.overflowY !== 'clip') return []
      // What only screen readers read is a pixel wide.
      if (one.clientWidth <= 1 || one.closest('svg, canvas')) return []
      // What is clamped to some lines on purpose can be opened; the rest has to fit.
      if (style.webkitLineClamp !== 'none' || one.scrollHeight <= one.clientHeight + 2) return []
      return [`<${one.tagName.toLowerCase()} class="${one.className}"> ${one.innerText.trim().slice(0, 60)}`]
    }),
  )

const VIEWS = [
  '/overview',
  '/rules',
  '/rules/3',
  '/day-sheet?person=jude',
  '/boards/hp',
  '/records/deals',
  '/journal',
  '/ahead',
  '/problems',
  '/results/28',
] as const

test.describe.configure({ mode: 'parallel' })

for (const path of VIEWS)
  test(`text set wider cuts nothing and moves nothing off the page: ${path}`, async ({ page }) => {
    await open(page, path)
    await page.addStyleTag({ content: SPACING })
    expect(await cut(page)).toEqual([])
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1280)
  })

test('with colours of the system’s own, marks, rails and what is chosen are still told apart', async ({ page }) => {
  await page.emulateMedia({ forcedColors: 'active' })
  await open(page, '/rules/3')
  const look = (selector: string) =>
    page
      .locator(selector)
      .first()
      .evaluate((one) => {
        const style = getComputedStyle(one)
        return { back: style.backgroundColor, line: style.borderTopColor, outline: style.outlineStyle }
      })
  const [mark, filled] = [await look('.mark.people, .mark.data'), await look('.mark.start')]
  expect(mark.line).not.toBe(mark.back)
  expect(filled.back).toBe(filled.line)
  expect((await look('nav [aria-current="page"]')).outline).toBe('solid')
  expect((await look('.rail')).back).not.toBe(
    await page.evaluate(() => getComputedStyle(document.body).backgroundColor),
  )
})
