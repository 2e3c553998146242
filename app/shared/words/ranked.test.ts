import { describe, expect, it } from 'vitest'
import { ranked } from './ranked'

const named = (...labels: string[]) => labels.map((label) => ({ label }))
const found = (options: readonly { label: string }[], words: string) => ranked(options, words).map(({ label }) => label)

describe('what a list shows first', () => {
  it('is the exact name, then what begins with it, then words in names, then what is said about them', () => {
    const options = [
      { label: 'Quoted amount' },
      { label: 'Amount per unit' },
      { label: 'Subamount' },
      { label: 'Value', words: 'amount, sum' },
      { label: 'Amount' },
      { label: 'Owner' },
    ]
    expect(found(options, 'amount')).toEqual(['Amount', 'Amount per unit', 'Quoted amount', 'Value', 'Subamount'])
  })
  it('takes a word that an option is also called by for more than letters inside of a name', () => {
    const options = [{ label: 'move to a stage' }, { label: 'add or remove a label', words: 'label tag mark' }]
    expect(found(options, 'tag')).toEqual(['add or remove a label', 'move to a stage'])
  })
  it('keeps the order of options that fit alike, and all while nothing is typed', () => {
    const options = named('Deal b', 'Deal a', 'Deal c')
    expect(found(options, 'deal')).toEqual(['Deal b', 'Deal a', 'Deal c'])
    expect(found(options, '  ')).toEqual(['Deal b', 'Deal a', 'Deal c'])
  })
  it('does not mind case and accents, and leaves out what lacks a word', () => {
    expect(found(named('Évora north', 'Evora'), 'EVORA')).toEqual(['Evora', 'Évora north'])
    expect(found(named('Évora north', 'Evora'), 'north ev')).toEqual(['Évora north'])
  })
})
