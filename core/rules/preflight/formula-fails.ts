import { figure, nounOf, plural } from '../../language/counts'
import { sayFault } from '../../language/formula-fault'
import { fieldWord } from '../../fields/say-value'
import { formulaThere } from '../../formulas/asked'
import { zSource } from '../value-source'
import { placedSteps } from '../tree'
import { definePreflight, noted } from './finding'

/** So many of the records that match are tried. */
const TRIED_MOST = 500

/** From so many of a hundred on, records on which a formula comes to nothing are worth a word. */
const NOTE_PERCENT = 5

/** Formulas of steps that go wrong on records that match now, or come to nothing on many of them. */
export const formulaFails = definePreflight({
  kind: 'formulaFails',
  look(rule, { catalogue, moment, data }) {
    const { document } = rule
    const { object } = document
    return placedSteps(document).flatMap((placed) => {
      const { step } = placed
      const read = zSource.safeParse((step.params as { readonly source?: unknown }).source)
      if (placed.object !== object || !read.success || read.data.from !== 'formula') return []
      const source = read.data
      const formula = formulaThere(source.text, object, catalogue)
      if (!formula.ok) return []
      const tried = data.sample(object, document.conditions, TRIED_MOST)
      const outcomes = tried.map((record) => ({ record, ...formula.formula.outcome(record, moment) }))
      const failed = outcomes.filter((one) => one.fault !== null)
      const [first] = failed
      const place = { part: 'step', id: step.id, param: 'source' } as const
      const of = `${figure(tried.length)} matching ${nounOf(tried.length, object)}${tried.length === TRIED_MOST ? ' that were tried' : ''}`
      if (first?.fault)
        return [
          noted('formulaFails', rule, {
            ...place,
            severity: 'error',
            about: 'fails',
            text: `Formula fails on ${figure(failed.length)} of ${figure(tried.length)}`,
            why: `On ${figure(failed.length)} of ${of}, for example “${first.record.name}”, ${sayFault(first.fault)}. The run would fail at this step, and nothing would be changed.`,
          }),
        ]
      const empty = outcomes.filter((one) => one.value === null)
      if (source.clears || empty.length * 100 < tried.length * NOTE_PERCENT || empty.length === 0) return []
      const field = catalogue.field(object, String((step.params as { readonly field?: unknown }).field))
      return [
        noted('formulaFails', rule, {
          ...place,
          severity: 'info',
          about: 'nothing',
          text: `No result on ${figure(empty.length)} of ${figure(tried.length)}`,
          why: `${figure(empty.length)} of ${of} ${plural(empty.length, 'has', 'have')} no value in something that the formula needs, for example “${empty[0]?.record.name ?? ''}”. There ${fieldWord(field) ?? 'the field'} stays as it is.`,
        }),
      ]
    })
  },
})
