import { ref, shallowRef, watch } from 'vue'
import type { Catalogue } from '#core/fields/catalogue'
import type { Field } from '#core/fields/field'
import { count } from '#core/language/counts'
import { sayProblem } from '#core/language/problems'
import type { Value } from '#core/language/value'
import type { ObjectKind } from '#core/records/kinds'
import { sayOutput } from '#core/rules/steps/decide'
import { readCell, writeCell } from '#core/tables/cell-text'
import { readOutput } from '#core/tables/output-text'
import { ROWS_MOST, type Cell, type DecisionTable, type TableRow } from '#core/tables/table'

interface Kept {
  readonly text: string
  readonly wrong: string
}

/**
 * A decision table as it is typed: what stands in each cell as text, what is being typed, and what cannot be read,
 * which stays in its cell with the reason until it can.
 */
export function useTableTexts(sheet: {
  readonly table: () => DecisionTable
  readonly object: () => ObjectKind
  readonly catalogue: () => Catalogue
  /** The field of each input; `null` for one that is no longer there. */
  readonly fields: () => readonly (Field | null)[]
  readonly set: (table: DecisionTable) => void
  /** Tells those who do not see the table what became of it. */
  readonly say: (text: string) => void
  /** So many rows found no place. */
  readonly full: (left: number) => void
}) {
  const typed = ref<Readonly<Record<string, Kept>>>({})
  /** What is being typed: kept here, so that a table that is drawn anew meanwhile does not take it back. */
  const typing = ref<{ readonly key: string; readonly text: string } | null>(null)
  /** What was set and has not come back yet: the next act goes on from it. */
  const ahead = shallowRef<DecisionTable | null>(null)
  watch(sheet.table, () => (ahead.value = null), { flush: 'sync' })
  const now = (): DecisionTable => ahead.value ?? sheet.table()
  function set(table: DecisionTable): void {
    ahead.value = table
    sheet.set(table)
  }
  const width = (): number => now().inputs.length + now().outputs.length

  /** Cells are told apart by row and by what their column is about: columns come and go beside them. */
  function keyOf(row: string, column: number): string {
    const { inputs, outputs } = now()
    const about = inputs.map(({ via, field }) => `${via ?? ''} ${field}`)
    const input = about[column]
    if (input === undefined) return `${row} out ${outputs[column - inputs.length]?.key ?? ''}`
    // The same input may stand there twice.
    return `${row} in ${input} ${about.slice(0, column).filter((one) => one === input).length}`
  }
  /** What stands in a cell, apart from what is being typed. */
  function heldAt(row: number, column: number): string {
    const { rows, inputs } = now()
    const line = rows[row]
    if (!line) return ''
    const kept = typed.value[keyOf(line.id, column)]
    if (kept) return kept.text
    const field = sheet.fields()[column]
    if (column < inputs.length)
      return field ? writeCell(line.when[column] ?? { is: 'any' }, field, sheet.catalogue()) : '-'
    const value = line.then[column - inputs.length] ?? null
    return value === null ? '' : sayOutput(value)
  }
  const textAt = (row: number, column: number): string => {
    const line = now().rows[row]
    return line && typing.value?.key === keyOf(line.id, column) ? typing.value.text : heldAt(row, column)
  }
  const wrongAt = (row: number, column: number): string | null =>
    typed.value[keyOf(now().rows[row]?.id ?? '', column)]?.wrong ?? null

  function freshRow(ids: readonly string[]): { id: string; when: Cell[]; then: Value[] } {
    const { inputs, outputs } = now()
    let n = ids.length + 1
    while (ids.includes(`r${n}`)) n++
    return { id: `r${n}`, when: inputs.map(() => ({ is: 'any' })), then: outputs.map(() => null) }
  }

  /** Puts texts into the table from a cell on, to the right and down; rows are added as they are needed. */
  function put(fromRow: number, fromColumn: number, lines: readonly (readonly string[])[]): readonly string[] {
    const table = now()
    const rows = table.rows.map((row) => ({ id: row.id, when: [...row.when], then: [...row.then] }))
    const wrong: Record<string, Kept> = { ...typed.value }
    const refused: string[] = []
    lines.slice(0, ROWS_MOST - fromRow).forEach((line, down) => {
      while (rows.length <= fromRow + down) rows.push(freshRow(rows.map((row) => row.id)))
      const row = rows[fromRow + down]
      if (!row) return
      line.forEach((text, right) => {
        const column = fromColumn + right
        if (column >= width()) return
        const key = keyOf(row.id, column)
        Reflect.deleteProperty(wrong, key)
        const refuse = (because: string): void => {
          wrong[key] = { text, wrong: because }
          refused.push(`Row ${fromRow + down + 1}: ${because}`)
        }
        if (column < table.inputs.length) {
          const field = sheet.fields()[column]
          const read = field ? readCell(text, field, sheet.catalogue()) : null
          if (read?.ok) row.when[column] = read.value
          else refuse(read ? sayProblem(read.problem) : 'This field no longer exists.')
          return
        }
        const at = column - table.inputs.length
        const output = table.outputs[at]
        const read = output ? readOutput(text, output, sheet.object(), sheet.catalogue()) : null
        if (read?.ok) row.then[at] = read.value
        else if (read) refuse(read.wrong)
      })
    })
    typed.value = wrong
    set({ ...table, rows })
    return refused
  }

  const setRows = (rows: readonly TableRow[]): void => set({ ...now(), rows })
  return {
    width,
    textAt,
    heldAt,
    wrongAt,
    type: (row: number, column: number, text: string): void => {
      const line = now().rows[row]
      if (line) typing.value = { key: keyOf(line.id, column), text }
    },
    revert: (): void => void (typing.value = null),
    /** Takes what was typed into a cell. */
    commit(row: number, column: number, text: string): void {
      typing.value = null
      if (text === heldAt(row, column)) return
      const [refused] = put(row, column, [[text]])
      if (refused !== undefined) sheet.say(refused)
    },
    /** Takes several cells as spreadsheets copy them: columns parted by tabs, rows by lines. Whether it was that. */
    paste(row: number, column: number, text: string): boolean {
      if (!/[\t\n]/.test(text.trim())) return false
      const lines = text
        .replace(/\r/g, '')
        .replace(/\n$/, '')
        .split('\n')
        .map((line) => line.split('\t'))
      const refused = put(row, column, lines)
      const left = Math.max(0, row + lines.length - ROWS_MOST)
      const pasted = `${count(lines.length - left, 'row')} pasted`
      const [first] = refused
      sheet.say(first === undefined ? pasted : `${pasted}, ${count(refused.length, 'cell')} not accepted. ${first}`)
      if (left > 0) sheet.full(left)
      return true
    },
    addRow: (): void => {
      const { rows } = now()
      if (rows.length < ROWS_MOST) setRows([...rows, freshRow(rows.map((row) => row.id))])
      else sheet.full(1)
    },
    removeRow: (at: number): void => {
      setRows(now().rows.filter((_, i) => i !== at))
      sheet.say(`Row ${at + 1} removed`)
    },
    moveRow: (at: number, by: -1 | 1): void => {
      const rows = [...now().rows]
      const [row] = rows.splice(at, 1)
      if (row) rows.splice(at + by, 0, row)
      setRows(rows)
      sheet.say(`Row ${at + 1} is now row ${at + by + 1}`)
    },
    /** The whole table as spreadsheets take it, with its headings. */
    asText: (): string =>
      [
        [...sheet.fields().map((field) => field?.label ?? '?'), ...now().outputs.map((one) => one.label)],
        ...now().rows.map((_, row) => Array.from({ length: width() }, (_one, column) => textAt(row, column))),
      ]
        .map((line) => line.join('\t'))
        .join('\n'),
  }
}
