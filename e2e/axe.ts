import type { Page } from '@playwright/test'
import axe, { type ElementContext, type RunOptions } from 'axe-core'

/** Where axe looks; without `include`, on the whole page but for pages of the simulated website that stand in it. */
type Where = { readonly include: readonly string[] } | { readonly exclude: readonly string[] }
export const WHOLE: Where = { exclude: ['iframe'] }
/** An open list or editor. */
export const IN_POPOVER: Where = { include: ['[data-pop]'] }

/**
 * What axe finds, one line a rule. It is asked in the page itself, where there are no frames to look into, and handed
 * over once a page: half a megabyte each time takes longer than what it looks at.
 */
export async function found(page: Page, where: Where = WHOLE, options: RunOptions = {}): Promise<readonly string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe.source)
  const { violations } = await page.evaluate(
    async (given) => {
      const [context, rules] = JSON.parse(given) as [ElementContext, RunOptions]
      // What passes is not gathered: naming each node of it takes most of the time.
      return await (window as unknown as { readonly axe: typeof axe }).axe.run(context, {
        ...rules,
        resultTypes: ['violations'],
      })
    },
    JSON.stringify([where, options]),
  )
  return violations.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`)
}
