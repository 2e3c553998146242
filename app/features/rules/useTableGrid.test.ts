import { nextTick, shallowRef } from 'vue'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useTableGrid } from './useTableGrid'

/** An entry of a table, as far as the keys know it. */
class Entry {
  value = ''
  selected: readonly number[] | 'all' | null = null
  constructor(
    readonly at: string,
    private readonly log: string[],
  ) {}
  focus(): void {
    this.log.push(`focus ${this.at}`)
  }
  select(): void {
    this.selected = 'all'
  }
  setSelectionRange(from: number, to: number): void {
    this.selected = [from, to]
  }
}

beforeEach(() => vi.stubGlobal('HTMLInputElement', Entry))
afterEach(() => vi.unstubAllGlobals())

function table(rows: number, width: number) {
  const log: string[] = []
  const held = new Map<string, string>()
  let many = rows
  const entries = new Map<string, Entry>()
  const entry = (at: string): Entry => {
    const known = entries.get(at) ?? new Entry(at, log)
    entries.set(at, known)
    return known
  }
  const root = {
    querySelector(selector: string) {
      const [, kind, at = ''] = /\[data-(cell|head)="([\d.-]+)"\]/.exec(selector) ?? []
      const [row = 0, column = 0] = at.split('.').map(Number)
      if (kind === 'head') return row >= 0 && row < width ? entry(`head ${at}`) : null
      return row < many && column < width ? entry(at) : null
    },
  }
  const grid = useTableGrid({
    root: shallowRef(root as unknown as HTMLElement),
    rows: () => many,
    width: () => width,
    held: (row, column) => held.get(`${row}.${column}`) ?? '',
    commit: (row, column, input) => {
      log.push(`keep ${row}.${column} “${input.value}”`)
      held.set(`${row}.${column}`, input.value)
    },
    revert: () => void log.push('revert'),
    addRow: () => {
      many++
      log.push('add row')
    },
    removeRow: (row) => {
      many--
      log.push(`remove row ${row}`)
    },
    moveRow: (row, by) => void log.push(`move row ${row} by ${by}`),
  })
  const event = (target: Entry, key: string, more: Partial<KeyboardEvent> = {}) => {
    const done = { stopped: false }
    const given = {
      key,
      target,
      altKey: false,
      ctrlKey: false,
      metaKey: false,
      shiftKey: false,
      preventDefault: () => (done.stopped = true),
      stopPropagation: () => undefined,
      ...more,
    }
    return { given: given as unknown as KeyboardEvent, done }
  }
  return {
    grid,
    log,
    entry,
    /** Presses a key in a cell; answers whether the table took it, and what came of it. */
    async press(at: string, key: string, more: Partial<KeyboardEvent> = {}) {
      log.length = 0
      const [row = 0, column = 0] = at.split('.').map(Number)
      const { given, done } = event(entry(at), key, more)
      grid.key(row, column, given)
      await nextTick()
      return { taken: done.stopped, did: [...log] }
    },
    async pressHead(column: number, key: string, target: object = {}, more: Partial<KeyboardEvent> = {}) {
      log.length = 0
      const { given, done } = event(target as Entry, key, more)
      grid.headKey(column, given)
      await nextTick()
      return { taken: done.stopped, did: [...log] }
    },
  }
}

describe('a table that is filled like a spreadsheet', () => {
  it.each([
    ['Enter', '1.1', '2.1'],
    ['ArrowDown', '1.1', '2.1'],
    ['ArrowUp', '1.1', '0.1'],
    ['ArrowLeft', '1.1', '1.0'],
    ['ArrowRight', '1.1', '1.2'],
    ['Home', '1.1', '1.0'],
    ['End', '1.1', '1.2'],
  ])('%s keeps the cell and leads from %s to %s', async (key, from, to) => {
    const { press } = table(3, 3)
    expect(await press(from, key)).toEqual({ taken: true, did: [`keep ${from} “”`, `focus ${to}`] })
  })
  it.each([
    ['ArrowLeft', '0.0'],
    ['ArrowRight', '0.2'],
    ['ArrowDown', '2.0'],
  ])('%s goes nowhere at the edge, and what was typed is kept', async (key, at) => {
    const { press, entry } = table(3, 3)
    entry(at).value = 'typed'
    expect((await press(at, key)).did).toEqual([`keep ${at} “typed”`])
  })
  it('Enter in the last row begins another one; the arrow does not', async () => {
    const { press } = table(2, 1)
    expect((await press('1.0', 'Enter')).did).toEqual(['keep 1.0 “”', 'add row', 'focus 2.0'])
    expect((await press('2.0', 'ArrowDown')).did).toEqual(['keep 2.0 “”'])
  })
  it('the arrow up leads from the first row into the headings, and down again', async () => {
    const { press, pressHead } = table(2, 2)
    expect((await press('0.1', 'ArrowUp')).did).toEqual(['keep 0.1 “”', 'focus head 1'])
    expect((await pressHead(1, 'ArrowDown')).did).toEqual(['focus 0.1'])
  })
  it('other keys, and those with Ctrl or Shift, are the entry’s own', async () => {
    const { press } = table(2, 2)
    for (const key of ['a', 'Tab', 'Backspace', 'Delete'])
      expect(await press('0.0', key)).toEqual({ taken: false, did: [] })
    for (const more of [{ ctrlKey: true }, { shiftKey: true }, { metaKey: true }])
      expect(await press('0.0', 'ArrowRight', more)).toEqual({ taken: false, did: [] })
  })
  it('F2 goes inside a cell: arrows move in the text until another cell is come to', async () => {
    const { press, grid, entry } = table(2, 2)
    entry('0.0').value = 'cold'
    expect((await press('0.0', 'F2')).taken).toBe(true)
    expect(entry('0.0').selected).toEqual([4, 4])
    for (const key of ['ArrowLeft', 'Home']) expect(await press('0.0', key)).toEqual({ taken: false, did: [] })
    expect((await press('0.0', 'ArrowDown')).did).toContain('focus 1.0')
    grid.come(1, 0)
    expect((await press('1.0', 'ArrowRight')).did).toContain('focus 1.1')
  })
  it('Escape gives back what stood there, and is left alone where nothing was typed', async () => {
    const { press, entry } = table(2, 2)
    expect(await press('0.0', 'Escape')).toEqual({ taken: false, did: [] })
    entry('0.0').value = 'half'
    expect(await press('0.0', 'Escape')).toEqual({ taken: true, did: ['revert', 'focus 0.0'] })
  })
  it('rows move with Alt, not beyond the ends, and go with Ctrl and Delete', async () => {
    const { press } = table(3, 2)
    const alt = { altKey: true }
    expect((await press('0.1', 'ArrowDown', alt)).did).toEqual(['keep 0.1 “”', 'move row 0 by 1', 'focus 1.1'])
    expect((await press('1.1', 'ArrowUp', alt)).did).toEqual(['keep 1.1 “”', 'move row 1 by -1', 'focus 0.1'])
    expect(await press('0.1', 'ArrowUp', alt)).toEqual({ taken: true, did: [] })
    expect(await press('2.1', 'ArrowDown', alt)).toEqual({ taken: true, did: [] })
    expect((await press('2.1', 'Delete', { ctrlKey: true })).did).toEqual(['remove row 2', 'focus 1.1'])
    expect((await press('0.1', 'Delete', { ctrlKey: true })).did).toEqual(['remove row 0', 'focus 0.1'])
  })
  it('has one stop for Tab: the cell that was last come to, or the nearest one that is left', async () => {
    const { grid, press } = table(3, 2)
    const stops = (): readonly string[] =>
      [0, 1, 2].flatMap((row) => [0, 1].flatMap((column) => (grid.isStop(row, column) ? [`${row}.${column}`] : [])))
    expect(stops()).toEqual(['0.0'])
    grid.come(2, 1)
    expect(stops()).toEqual(['2.1'])
    await press('2.1', 'Delete', { ctrlKey: true })
    expect(stops()).toEqual(['1.1'])
  })
  it('arrows lead along the headings, but not out of a name that is being typed', async () => {
    const { pressHead, entry } = table(2, 3)
    expect((await pressHead(1, 'ArrowLeft')).did).toEqual(['focus head 0'])
    expect((await pressHead(1, 'ArrowRight')).did).toEqual(['focus head 2'])
    expect(await pressHead(2, 'ArrowRight')).toEqual({ taken: false, did: [] })
    expect(await pressHead(1, 'ArrowLeft', entry('head 1'))).toEqual({ taken: false, did: [] })
    expect(await pressHead(1, 'ArrowDown', entry('head 1'))).toEqual({ taken: true, did: ['focus 0.1'] })
    expect(await pressHead(1, 'ArrowLeft', {}, { ctrlKey: true })).toEqual({ taken: false, did: [] })
  })
})
