import { nextTick, ref, type ShallowRef } from 'vue'

interface Grid {
  readonly root: Readonly<ShallowRef<HTMLElement | null>>
  readonly rows: () => number
  readonly width: () => number
  /** What stands in a cell, apart from what is being typed. */ readonly held: (row: number, column: number) => string
  readonly commit: (row: number, column: number, input: HTMLInputElement) => void
  readonly revert: () => void
  readonly addRow: () => void
  readonly removeRow: (row: number) => void
  readonly moveRow: (row: number, by: -1 | 1) => void
}

/**
 * The keys of a table that is filled like a spreadsheet, as the grid pattern of the ARIA Authoring Practices has it:
 * one stop for Tab, arrows from cell to cell, F2 to move inside a cell, Enter to the next row, Alt with ↑ and ↓ to move
 * one.
 */
export function useTableGrid(grid: Grid) {
  /** The cell that Tab comes to. */
  const at = ref({ row: 0, column: 0 })
  const inside = ref(false)
  const inHead = ref(false)
  const isStop = (row: number, column: number): boolean =>
    Math.min(at.value.row, grid.rows() - 1) === row && Math.min(at.value.column, grid.width() - 1) === column

  async function focusCell(row: number, column: number): Promise<void> {
    await nextTick()
    const cell = grid.root.value?.querySelector<HTMLInputElement>(`[data-cell="${row}.${column}"]`)
    cell?.focus()
    cell?.select()
  }
  /** A cell was come to: by key it is replaced by typing, by a click one moves inside it. */
  function come(row: number, column: number): void {
    if (at.value.row !== row || at.value.column !== column) inside.value = false
    at.value = { row, column }
  }
  const heading = (column: number): HTMLElement | null | undefined =>
    grid.root.value?.querySelector<HTMLElement>(`[data-head="${column}"]`)

  /** Where a key leads from a cell; `null` for keys that are the entry's own. */
  function target(key: string, row: number, column: number): readonly [number, number] | null {
    switch (key) {
      case 'Enter':
      case 'ArrowDown':
        return [row + 1, column]
      case 'ArrowUp':
        return [row - 1, column]
      case 'ArrowLeft':
        return [row, column - 1]
      case 'ArrowRight':
        return [row, column + 1]
      case 'Home':
        return [row, 0]
      case 'End':
        return [row, grid.width() - 1]
      default:
        return null
    }
  }
  function key(row: number, column: number, event: KeyboardEvent): void {
    const input = event.target as HTMLInputElement
    const done = (): void => {
      event.preventDefault()
      event.stopPropagation()
    }
    if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
      done()
      const by = event.key === 'ArrowUp' ? -1 : 1
      if (row + by < 0 || row + by >= grid.rows()) return
      grid.commit(row, column, input)
      grid.moveRow(row, by)
      return void focusCell(row + by, column)
    }
    if (event.key === 'Delete' && event.ctrlKey) {
      done()
      grid.removeRow(row)
      return void focusCell(Math.max(0, row - 1), column)
    }
    if (event.ctrlKey || event.metaKey || event.altKey || event.shiftKey) return
    if (event.key === 'F2') {
      done()
      inside.value = true
      input.setSelectionRange(input.value.length, input.value.length)
      return
    }
    if (event.key === 'Escape' && (inside.value || input.value !== grid.held(row, column))) {
      done()
      inside.value = false
      grid.revert()
      return void focusCell(row, column)
    }
    const sideways = event.key !== 'Enter' && event.key !== 'ArrowUp' && event.key !== 'ArrowDown'
    if (inside.value && sideways) return
    const to = target(event.key, row, column)
    if (!to) return
    done()
    inside.value = false
    grid.commit(row, column, input)
    if (to[0] < 0) return void heading(column)?.focus()
    if (to[0] === grid.rows()) {
      if (event.key !== 'Enter') return
      grid.addRow()
    }
    if (to[1] >= 0 && to[1] < grid.width()) void focusCell(to[0], to[1])
  }
  /** Arrows lead along the headings and down into the table. */
  function headKey(column: number, event: KeyboardEvent): void {
    if (event.altKey || event.ctrlKey || event.metaKey) return
    const typing = event.target instanceof HTMLInputElement
    const to =
      event.key === 'ArrowLeft' && !typing
        ? heading(column - 1)
        : event.key === 'ArrowRight' && !typing
          ? heading(column + 1)
          : null
    if (event.key !== 'ArrowDown' && !to) return
    event.preventDefault()
    event.stopPropagation()
    if (to) to.focus()
    else void focusCell(0, column)
  }
  return { isStop, inHead, focusCell, come, goInside: () => (inside.value = true), key, headKey }
}
