import type { Field } from '../../core/fields/field'
import type { Value, Values } from '../../core/language/value'
import type { ObjectKind, RecordRef } from '../../core/records/kinds'
import type { FieldChange } from '../../core/records/record'
import type { CompiledSql } from './conditions'
import { TABLES, columnOf } from './record-columns'
import { RecordQueries } from './record-queries'

/**
 * Records of every kind, in one table a kind with a real column a field, which measures best for filters, sorting and
 * updates up to about a hundred fields. This module alone knows the columns; it adds them as fields come.
 */
export class RecordStore extends RecordQueries {
  insert(object: ObjectKind, values: Values, nowMs: number): number {
    const given = this.cells(object, Object.entries(values))
    const names = ['version', 'created_at', 'updated_at', ...given.map(([name]) => name)]
    const statement = this.statement(
      `INSERT INTO ${TABLES[object]} (${names.join(', ')}) VALUES (${names.map(() => '?').join(', ')})`,
    )
    return Number(statement.run(1, nowMs, nowMs, ...given.map(([, cell]) => cell)).lastInsertRowid)
  }

  /** Writes one field of many records as it is worked out: no change of theirs, and nothing that anybody hears of. */
  fill(field: Field, values: readonly (readonly [id: number, value: Value])[]): void {
    for (const [id, value] of values) {
      const given = this.cells(field.object, [[field.key, value]])
      this.statement(
        `UPDATE ${TABLES[field.object]} SET ${given.map(([name]) => `${name} = ?`).join(', ')} WHERE id = ?`,
      ).run(...given.map(([, cell]) => cell), id)
    }
  }

  /** Writes whether each record meets conditions. */
  fillTest(field: Field, where: Pick<CompiledSql, 'test'>): void {
    this.statement(
      `UPDATE ${TABLES[field.object]} SET ${columnOf(field.id)} = CASE WHEN ${where.test.text} THEN 1 ELSE 0 END`,
    ).run(...where.test.bound)
  }

  /** Takes a record out of its table. Its number is never given again. */
  remove({ object, id }: RecordRef): void {
    this.statement(`DELETE FROM ${TABLES[object]} WHERE id = ?`).run(id)
  }

  /** Puts a record back under the number that it had. */
  putBack({ object, id }: RecordRef, version: number, values: Values, createdMs: number, nowMs: number): void {
    const given = this.cells(object, Object.entries(values))
    const names = ['id', 'version', 'created_at', 'updated_at', ...given.map(([name]) => name)]
    this.statement(
      `INSERT INTO ${TABLES[object]} (${names.join(', ')}) VALUES (${names.map(() => '?').join(', ')})`,
    ).run(id, version, createdMs, nowMs, ...given.map(([, cell]) => cell))
  }

  /** Without `counts` the version stays as it is: what is worked out is in nobody's way. */
  update({ object, id }: RecordRef, changes: readonly FieldChange[], nowMs: number, counts = true): void {
    const given = this.cells(
      object,
      changes.map((change) => [change.field, change.new] as const),
    )
    const set = given.map(([name]) => `${name} = ?`).join(', ')
    this.statement(
      `UPDATE ${TABLES[object]} SET version = version + ${counts ? 1 : 0}, updated_at = ?, ${set} WHERE id = ?`,
    ).run(nowMs, ...given.map(([, cell]) => cell), id)
  }
}
