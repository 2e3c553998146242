import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { ListPage } from '~~/server/engine/record-list'
import { PAGE_ROWS, useListPages } from './listPages'

interface Looked {
  readonly words: string
}

const MATCHED = 350
/** A page of a list whose rows are called by what was looked for. */
function pageOf({ words }: Looked, offset: number, matched = MATCHED): ListPage {
  const rows = Array.from({ length: Math.max(0, Math.min(PAGE_ROWS, matched - offset)) }, (_, i) => ({
    id: offset + i,
    values: { name: `${words} ${offset + i}` },
  }))
  return { total: 1_000, matched, rows }
}

/** A list on a screen whose server answers when it is told to. */
function heldList() {
  let words = 'plain'
  const waiting: { offset: number; answer: (matched?: number) => void; refuse: () => void }[] = []
  const pages = useListPages(
    () => ({ words }),
    (looked, offset) =>
      new Promise<ListPage>((resolve, reject) =>
        waiting.push({
          offset,
          answer: (matched) => resolve(pageOf(looked, offset, matched)),
          refuse: () => reject(new Error(`${looked.words} is refused`)),
        }),
      ),
    pageOf({ words }, 0),
  )
  return {
    ...pages,
    waiting,
    lookFor: (next: string) => {
      words = next
      return pages.reread()
    },
    name: (index: number) => pages.rows.value.get(index)?.values.name,
    /** Which lists the rows that are shown are of. */
    listsShown: () => [
      ...new Set([...pages.rows.value.values()].map(({ values }) => String(values.name).split(' ')[0])),
    ],
  }
}

describe('a list that is read page by page', () => {
  it('asks once for each page that is looked at', async () => {
    const list = heldList()
    expect(list.counts.value).toEqual({ total: 1_000, matched: MATCHED })
    const needed = [list.need(3), list.need(120), list.need(199), list.need(320)]
    expect(list.waiting.map(({ offset }) => offset)).toEqual([100, 300])
    for (const one of list.waiting) one.answer()
    await Promise.all(needed)
    expect([list.name(3), list.name(199), list.name(349)]).toEqual(['plain 3', 'plain 199', 'plain 349'])
    expect(list.name(200)).toBeUndefined()
  })

  it('shows no answer to a list that is looked for no longer', async () => {
    const list = heldList()
    const late = list.need(120)
    const older = list.lookFor('older')
    const newer = list.lookFor('newer')
    const [page, first, second] = list.waiting
    second?.answer()
    await newer
    first?.answer()
    page?.answer()
    await Promise.all([older, late])
    expect(list.listsShown()).toEqual(['newer'])
    expect(list.name(120)).toBeUndefined()
  })

  it('says a refusal of the list that is looked for, and none of an older one', async () => {
    const list = heldList()
    const older = list.lookFor('older')
    const newer = list.lookFor('newer')
    list.waiting[0]?.refuse()
    await expect(older).resolves.toBeUndefined()
    list.waiting[1]?.refuse()
    await expect(newer).rejects.toThrow('newer is refused')
  })

  it('keeps the list before with all its pages where the next is refused', async () => {
    const list = heldList()
    const refused = list.lookFor('refused')
    list.waiting[0]?.refuse()
    await expect(refused).rejects.toThrow()
    const page = list.need(120)
    list.waiting[1]?.answer()
    await page
    expect([list.name(0), list.name(120)]).toEqual(['plain 0', 'plain 120'])
  })

  it('asks again for a page that did not come', async () => {
    const list = heldList()
    const failed = list.need(120)
    list.waiting[0]?.refuse()
    await failed
    const again = list.need(120)
    list.waiting[1]?.answer()
    await again
    expect(list.name(120)).toBe('plain 120')
  })

  it('keeps the rows of the same list until their page comes again', async () => {
    const list = heldList()
    const page = list.need(120)
    list.waiting[0]?.answer()
    await page
    const same = list.reread()
    list.waiting[1]?.answer(150)
    await same
    expect(list.counts.value.matched).toBe(150)
    expect([list.name(120), list.name(150)]).toEqual(['plain 120', undefined])
    void list.need(120)
    expect(list.waiting.map(({ offset }) => offset)).toEqual([100, 0, 100])
  })

  it('never mixes two lists, whatever comes in whichever order, and ends with the last', async () => {
    const doing = fc.oneof(
      fc.record({ look: fc.constantFrom('a', 'b', 'c') }),
      fc.record({ need: fc.nat(MATCHED - 1) }),
      fc.record({ end: fc.nat(20), good: fc.boolean() }),
    )
    await fc.assert(
      fc.asyncProperty(fc.array(doing, { maxLength: 40 }), fc.constantFrom('a', 'b'), async (doings, lastWords) => {
        const list = heldList()
        for (const one of doings) {
          if ('look' in one) list.lookFor(one.look).catch(() => undefined)
          else if ('need' in one) void list.need(one.need)
          else {
            const [ended] = list.waiting.splice(one.end % Math.max(1, list.waiting.length), 1)
            if (one.good) ended?.answer()
            else ended?.refuse()
          }
          await new Promise((settled) => setImmediate(settled))
          expect(list.listsShown()).toHaveLength(1)
        }
        const last = list.lookFor(lastWords)
        for (const one of list.waiting.splice(0)) one.answer()
        await last
        expect(list.listsShown()).toEqual([lastWords])
        for (const [index, { id }] of list.rows.value) expect(id).toBe(index)
      }),
      { endOnFailure: true },
    )
  })
})
