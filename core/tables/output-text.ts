import type { Catalogue } from '../fields/catalogue'
import { FIELD_TYPES } from '../fields/types'
import { sayProblem } from '../language/problems'
import type { Value } from '../language/value'
import type { ObjectKind } from '../records/kinds'
import type { TableOutput } from './table'

/** What somebody typed as the result of a row, read by the kind of the result; blank and a dash are nothing. */
export function readOutput(
  text: string,
  output: TableOutput,
  object: ObjectKind,
  catalogue: Catalogue,
): { readonly ok: true; readonly value: Value } | { readonly ok: false; readonly wrong: string } {
  const raw = text.trim()
  if (raw === '' || raw === '–') return { ok: true, value: null }
  if (output.type === 'text') return { ok: true, value: raw }
  const read = FIELD_TYPES[output.type].read(raw, {
    catalogue,
    field: {
      id: 0,
      object,
      key: output.key,
      label: output.label,
      type: output.type,
      description: '',
      keptBy: null,
      required: false,
      choices: [],
      currencyKey: null,
      synonyms: null,
    },
    style: { decimal: 'point', dateOrder: 'dayFirst' },
    pipelineId: null,
  })
  return read.ok ? { ok: true, value: read.value } : { ok: false, wrong: sayProblem(read.problem) }
}
