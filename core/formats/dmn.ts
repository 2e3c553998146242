import '../language/refusals/of-server'
import { XMLBuilder, XMLParser, XMLValidator } from 'fast-xml-parser'
import { isDate } from '../time/dates'
import { FIELD_TYPES } from '../fields/types'
import type { Field } from '../fields/field'
import { isEmpty, type Value } from '../language/value'
import { bad, good, sayProblem, type Result } from '../language/problems'
import { OBJECTS, type ObjectKind } from '../records/kinds'
import { readDmnCell } from './dmn-cell'
import {
  inputField,
  INPUTS_MOST,
  outputKey,
  OUTPUTS_MOST,
  ROWS_MOST,
  type Aggregation,
  type Cell,
  type DecisionTable,
  type HitPolicy,
  type TableInput,
  type TableOutput,
} from '../tables/table'
import type { Names } from '../fields/names'

/**
 * Decision tables as files of the OMG's Decision Model and Notation 1.3: one decision with one table. Inputs are
 * named `deal.amount`, `company.fitTier` or, for what a step before it found, `step.s1.thanks`. What such a file can
 * hold beyond that is refused by its name and never passed over.
 */

const NAMESPACE = 'https://www.omg.org/spec/DMN/20191111/MODEL/'
export const DMN_MOST = 2_000_000

const POLICY_WORDS: { readonly [H in HitPolicy]: string } = { unique: 'UNIQUE', first: 'FIRST', collect: 'COLLECT' }
const AGGREGATION_WORDS: { readonly [A in Exclude<Aggregation, 'list'>]: string } = {
  sum: 'SUM',
  min: 'MIN',
  max: 'MAX',
  count: 'COUNT',
}
const OUTPUT_TYPE_WORDS: { readonly [T in TableOutput['type']]: string } = {
  text: 'string',
  number: 'number',
  yesNo: 'boolean',
}

/** Types that FEEL has of its own; others are named in the file. */
const TYPE_REFS = new Set([
  'number',
  'string',
  'boolean',
  'date',
  'time',
  'dateTime',
  'dayTimeDuration',
  'yearMonthDuration',
])

const typeRef = (field: Field): string => {
  const { widget } = FIELD_TYPES[field.type]
  return widget === 'number' ? 'number' : widget === 'date' ? 'date' : widget === 'yesNo' ? 'boolean' : 'string'
}

/** A value as a literal of FEEL. */
const literal = (value: Value): string =>
  isEmpty(value)
    ? 'null'
    : typeof value === 'string' && isDate(value)
      ? `date("${value}")`
      : typeof value === 'string'
        ? JSON.stringify(value)
        : String(value)

function feelOf(cell: Cell): string {
  switch (cell.is) {
    case 'any':
      return '-'
    case 'empty':
      return 'null'
    case 'filled':
      return 'not(null)'
    case 'values':
      return cell.not ? `not(${cell.values.map(literal).join(', ')})` : cell.values.map(literal).join(', ')
    case 'band':
      if (cell.from !== null && cell.to !== null)
        return cell.from === cell.to && cell.fromIn && cell.toIn
          ? literal(cell.from)
          : `${cell.fromIn ? '[' : '('}${literal(cell.from)}..${literal(cell.to)}${cell.toIn ? ']' : ')'}`
      if (cell.from !== null) return `${cell.fromIn ? '>=' : '>'} ${literal(cell.from)}`
      return cell.to === null ? 'not(null)' : `${cell.toIn ? '<=' : '<'} ${literal(cell.to)}`
  }
}

const expressionOf = ({ via, field }: TableInput, object: ObjectKind): string =>
  field.includes('.') ? `step.${field}` : `${via ?? object}.${field}`

/** The table as a file. `name` is the decision's. */
export function writeDmn(table: DecisionTable, name: string, { catalogue, object }: Names): string {
  const fields = table.inputs.map((input) => inputField(input, object, catalogue))
  const decision = {
    '@id': 'decision',
    '@name': name,
    decisionTable: {
      '@id': 'table',
      '@hitPolicy': POLICY_WORDS[table.hit],
      ...(table.hit === 'collect' && table.collect !== 'list'
        ? { '@aggregation': AGGREGATION_WORDS[table.collect] }
        : {}),
      input: table.inputs.map((input, i) => ({
        '@id': `input${i + 1}`,
        '@label': fields[i]?.label ?? input.field,
        inputExpression: {
          '@id': `expression${i + 1}`,
          ...(fields[i] ? { '@typeRef': typeRef(fields[i]) } : {}),
          text: expressionOf(input, object),
        },
      })),
      output: table.outputs.map((output) => ({
        '@id': `output-${output.key}`,
        '@name': output.key,
        '@label': output.label,
        '@typeRef': OUTPUT_TYPE_WORDS[output.type],
      })),
      rule: table.rows.map((row) => ({
        '@id': row.id,
        inputEntry: row.when.map((cell, i) => ({ '@id': `${row.id}-in${i + 1}`, text: feelOf(cell) })),
        outputEntry: row.then.map((value, i) => ({ '@id': `${row.id}-out${i + 1}`, text: literal(value) })),
      })),
    },
  }
  const builder = new XMLBuilder({
    ignoreAttributes: false,
    attributeNamePrefix: '@',
    format: true,
    suppressEmptyNode: true,
  })
  const built: unknown = builder.build({
    '?xml': { '@version': '1.0', '@encoding': 'UTF-8' },
    definitions: { '@xmlns': NAMESPACE, '@id': 'definitions', '@name': name, '@namespace': 'urn:sky-lever', decision },
  })
  return String(built)
}

/**
 * What may stand in a file. Everything else is refused by its name; drawings and extensions say nothing about the
 * table.
 */
const KNOWN = new Set([
  'definitions',
  'decision',
  'decisionTable',
  'input',
  'inputExpression',
  'inputValues',
  'output',
  'outputValues',
  'rule',
  'inputEntry',
  'outputEntry',
  'text',
  'annotation',
  'annotationEntry',
  'description',
  'inputData',
  'variable',
  'informationRequirement',
  'requiredInput',
])
const SILENT = new Set(['DMNDI', 'extensionElements'])
const LISTS = new Set([
  'decision',
  'input',
  'output',
  'rule',
  'inputEntry',
  'outputEntry',
  'annotation',
  'annotationEntry',
  'inputData',
  'informationRequirement',
])

type Node = { readonly [name: string]: unknown }
const isNode = (given: unknown): given is Node => typeof given === 'object' && given !== null && !Array.isArray(given)
const list = (node: Node, name: string): readonly Node[] =>
  Array.isArray(node[name]) ? node[name].map((one) => (isNode(one) ? one : {})) : []
const attribute = (node: Node, name: string): string =>
  typeof node[`@${name}`] === 'string' ? String(node[`@${name}`]) : ''
const textIn = (node: Node): string =>
  (typeof node.text === 'string' ? node.text : isNode(node.text) ? String(node.text['#text'] ?? '') : '').trim()

/** The first element that is not covered. */
function foreign(node: Node): string | null {
  for (const [name, inside] of Object.entries(node)) {
    if (name.startsWith('@') || name.startsWith('#') || name.startsWith('?') || SILENT.has(name)) continue
    if (!KNOWN.has(name)) return name
    for (const one of Array.isArray(inside) ? inside : [inside]) {
      const found = isNode(one) ? foreign(one) : null
      if (found !== null) return found
    }
  }
  return null
}

/** What says that texts are in FEEL: nothing, or one of its names (DMN 1.1 to 1.5). */
const FEEL = /^(?:https?:\/\/www\.omg\.org\/spec\/(?:DMN\/\d{8}\/)?FEEL(?:\/\d+)?\/?|feel|s-feel)$/i

/** The first language of expressions or types that is not FEEL. */
function otherLanguage(node: Node): string | null {
  for (const [name, inside] of Object.entries(node)) {
    if ((name === '@expressionLanguage' || name === '@typeLanguage') && !FEEL.test(String(inside).trim()))
      return String(inside)
    if (name.startsWith('@') || SILENT.has(name)) continue
    for (const one of Array.isArray(inside) ? inside : [inside]) {
      const found = isNode(one) ? otherLanguage(one) : null
      if (found !== null) return found
    }
  }
  return null
}

function readExpression(text: string, { catalogue, object }: Names): TableInput | null {
  const [of = '', ...rest] = text.split('.')
  const key = rest.join('.')
  if (of === 'step') return catalogue.field(object, key) ? { via: null, field: key } : null
  const kind = OBJECTS.find((one) => one === of)
  if (!kind || key.includes('.')) return null
  return catalogue.field(kind, key) ? { via: kind === object ? null : kind, field: key } : null
}

function readLiteral(text: string, type: TableOutput['type']): Result<Value> {
  if (text === '' || text === 'null' || text === '-') return good(null)
  if (type === 'number' && /^-?\d+(?:\.\d+)?$/.test(text)) return good(Number(text))
  if (type === 'yesNo' && (text === 'true' || text === 'false')) return good(text === 'true')
  if (type === 'text' && /^"(?:[^"\\]|\\.)*"$/.test(text)) {
    try {
      return good(String(JSON.parse(text)))
    } catch (error) {
      if (!(error instanceof SyntaxError)) throw error
    }
  }
  return bad({ code: 'onlyFixed', type, raw: text })
}

/** Reads a file for rules on a kind of record. Refuses with the place what cannot be read whole. */
export function readDmn(text: string, names: Names): Result<{ readonly name: string; readonly table: DecisionTable }> {
  if (text.length > DMN_MOST) return bad({ code: 'limit', what: 'character', most: DMN_MOST })
  if (/<!DOCTYPE/i.test(text)) return bad({ code: 'noDocumentTypes' })
  const valid = XMLValidator.validate(text)
  if (valid !== true) {
    const { line, col, msg } = valid.err
    return bad({ code: 'atLine', line, column: col, said: msg })
  }
  const parsed: unknown = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: '@',
    removeNSPrefix: true,
    parseTagValue: false,
    isArray: (name) => LISTS.has(name),
  }).parse(text)
  const root = isNode(parsed) ? parsed.definitions : null
  if (!isNode(root)) return bad({ code: 'noDefinitions' })
  const language = otherLanguage({ definitions: root })
  if (language !== null) return bad({ code: 'otherLanguage', language })
  const strange = foreign({ definitions: root })
  if (strange !== null) return bad({ code: 'foreignPart', part: strange })
  const decisions = list(root, 'decision')
  const [decision] = decisions
  if (!decision) return bad({ code: 'noDecision' })
  if (decisions.length > 1) return bad({ code: 'severalDecisions', number: decisions.length })
  if (!isNode(decision.decisionTable)) return bad({ code: 'noTable' })
  return readTable(decision.decisionTable, attribute(decision, 'name') || 'Decision', names)
}

function readTable(
  node: Node,
  name: string,
  names: Names,
): Result<{ readonly name: string; readonly table: DecisionTable }> {
  const policy = attribute(node, 'hitPolicy') || 'UNIQUE'
  const hit = (Object.keys(POLICY_WORDS) as HitPolicy[]).find((one) => POLICY_WORDS[one] === policy)
  if (!hit) return bad({ code: 'hitPolicy', policy })
  const gathered = attribute(node, 'aggregation')
  const collect =
    gathered === ''
      ? 'list'
      : (Object.keys(AGGREGATION_WORDS) as Exclude<Aggregation, 'list'>[]).find(
          (one) => AGGREGATION_WORDS[one] === gathered,
        )
  if (!collect) return bad({ code: 'aggregation', aggregation: gathered })
  if (gathered !== '' && hit !== 'collect') return bad({ code: 'aggregationOf', aggregation: gathered, policy })
  const turned = attribute(node, 'preferredOrientation')
  if (turned === 'CrossTable') return bad({ code: 'crossTable' })

  const [inputNodes, outputNodes, ruleNodes] = [list(node, 'input'), list(node, 'output'), list(node, 'rule')]
  if (inputNodes.length > INPUTS_MOST) return bad({ code: 'limit', what: 'input', most: INPUTS_MOST })
  if (outputNodes.length > OUTPUTS_MOST) return bad({ code: 'limit', what: 'result', most: OUTPUTS_MOST })
  if (ruleNodes.length > ROWS_MOST) return bad({ code: 'limit', what: 'row', most: ROWS_MOST })
  const inputs: TableInput[] = []
  const fields: Field[] = []
  for (const [i, one] of inputNodes.entries()) {
    const expression = isNode(one.inputExpression) ? textIn(one.inputExpression) : ''
    const input = readExpression(expression, names)
    const field = input && inputField(input, names.object, names.catalogue)
    if (!input || !field) return bad({ code: 'inputField', input: i + 1, raw: expression, object: names.object })
    const ref = isNode(one.inputExpression) ? attribute(one.inputExpression, 'typeRef').replace(/^.*:/, '') : ''
    if (ref !== '' && ref !== 'Any' && TYPE_REFS.has(ref) && ref !== typeRef(field))
      return bad({ code: 'inputType', input: i + 1, given: ref, field: field.label, type: typeRef(field) })
    inputs.push(input)
    fields.push(field)
  }
  const outputs: TableOutput[] = []
  for (const [i, one] of outputNodes.entries()) {
    const given = attribute(one, 'name') || attribute(one, 'label') || `result ${i + 1}`
    const ref = attribute(one, 'typeRef').replace(/^.*:/, '') || 'string'
    const type = (Object.keys(OUTPUT_TYPE_WORDS) as TableOutput['type'][]).find((t) => OUTPUT_TYPE_WORDS[t] === ref)
    if (!type) return bad({ code: 'outputType', output: i + 1, given: ref })
    outputs.push({
      key: outputKey(
        given,
        outputs.map((output) => output.key),
      ),
      label: attribute(one, 'label') || given,
      type,
    })
  }
  if (collect !== 'list' && collect !== 'count') {
    const other = outputs.find(({ type }) => type !== 'number')
    if (other) return bad({ code: 'aggregatesNumbers', aggregation: gathered, output: other.label })
  }
  const rows: DecisionTable['rows'][number][] = []
  for (const [i, rule] of ruleNodes.entries()) {
    const [ins, outs] = [list(rule, 'inputEntry'), list(rule, 'outputEntry')]
    if (ins.length !== inputs.length || outs.length !== outputs.length)
      return bad({
        code: 'rowLength',
        row: i + 1,
        cells: ins.length,
        results: outs.length,
        inputs: inputs.length,
        outputs: outputs.length,
      })
    const when: Cell[] = []
    for (const [at, entry] of ins.entries()) {
      const field = fields[at]
      const cell = field ? readDmnCell(textIn(entry), field, names.catalogue) : null
      if (!cell?.ok) {
        const said = sayProblem(cell?.problem ?? { code: 'noSuchInput' })
        return bad({ code: 'inCell', row: i + 1, part: 'input', number: at + 1, said })
      }
      when.push(cell.value)
    }
    const then: Value[] = []
    for (const [at, entry] of outs.entries()) {
      const value = readLiteral(textIn(entry), outputs[at]?.type ?? 'text')
      if (!value.ok)
        return bad({
          code: 'inCell',
          row: i + 1,
          part: 'output',
          number: at + 1,
          said: sayProblem(value.problem),
        })
      then.push(value.value)
    }
    rows.push({ id: `r${i + 1}`, when, then })
  }
  return good({ name, table: { hit, collect, inputs, outputs, rows } })
}
