import { KEPT } from '../../core/fields/define'
import { derivationsOf } from '../../core/derived/derivations'
import { isShown, type Field } from '../../core/fields/field'
import { usesChoice } from '../../core/rules/uses'
import type { ObjectKind } from '../../core/records/kinds'
import { rulesThatName } from '../engine/fields'
import type { Workspace } from '../engine/workspace'
import { sayValue } from '../../core/fields/say-value'

const SAMPLES = 3

export interface FieldLine {
  readonly field: Field
  readonly archived: boolean
  /** Whether the system itself needs it: it can be renamed, and no more. */
  readonly kept: boolean
  /** How many records have something there. */
  readonly filled: number
  /** The values that occur most, in words. */
  readonly samples: readonly { readonly text: string; readonly count: number }[]
  /** The fields that are worked out from it. */
  readonly madeInto: readonly Pick<Field, 'id' | 'object' | 'label'>[]
  readonly uses: readonly { readonly ruleId: number; readonly name: string; readonly state: string }[]
  /** For choice fields: how many records and rules hold each, by its id. */
  readonly choices: Readonly<Record<string, { readonly records: number; readonly rules: number }>>
}

export interface FieldSheet {
  readonly object: ObjectKind
  readonly total: number
  readonly lines: readonly FieldLine[]
}

/** The fields of a kind of record: how far they are filled, what stands in them, and which rules name them. */
export function fieldSheet(workspace: Workspace, object: ObjectKind): FieldSheet {
  const catalogue = workspace.catalogue()
  const { records } = workspace.store
  const away = (catalogue.data.archived ?? []).filter((field) => field.object === object)
  const line = (field: Field, archived: boolean): FieldLine => {
    const named = rulesThatName(workspace, field)
    const held = field.choices.length === 0 ? {} : records.choiceCounts(field)
    return {
      field,
      archived,
      kept: field.keptBy !== null || field.key in KEPT,
      filled: records.filled(field),
      samples: records
        .commonest(field, SAMPLES)
        .map(({ value, count }) => ({ text: sayValue(value, field, catalogue), count })),
      madeInto: derivationsOf(catalogue)
        .hungOn(field)
        .filter(isShown)
        .map(({ id, object: of, label }) => ({ id, object: of, label })),
      uses: named.map((rule) => ({ ruleId: rule.id, name: rule.draft.name, state: rule.state })),
      choices: Object.fromEntries(
        field.choices.map(({ id }) => [
          id,
          {
            records: held[id] ?? 0,
            rules: named.filter((rule) => usesChoice(rule.draft, object, field.key, id)).length,
          },
        ]),
      ),
    }
  }
  return {
    object,
    total: records.count(object),
    lines: [...catalogue.fields(object).map((field) => line(field, false)), ...away.map((field) => line(field, true))],
  }
}
