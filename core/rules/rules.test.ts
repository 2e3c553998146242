import { sayProblem } from '../language/problems'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { RecordSnapshot } from '../records/record'
import { nothingAround } from '../testing/around'
import { active, all, condition, document, enters, set, task } from '../testing/rules'
import { checkRule } from './check'
import { sayRule } from './describe'
import { blankRule, doSame, RULE_FORMAT } from './document'
import {
  addCondition,
  addGroup,
  addStep,
  addTrigger,
  atEnd,
  moveStep,
  partOf,
  pasteSteps,
  removePart,
  setWord,
  stepsToText,
} from './edit'
import { checkText, fillText, mergeFields, splitText } from './merge'
import { STEPS, STEP_NAMES } from './steps'
import { TRIGGERS, TRIGGER_NAMES } from './triggers'
import { plainSentence } from '../language/sentence'
import { readRule, zRule } from './schema'
import { catalogue, names } from '../testing/setting'

const record: RecordSnapshot = {
  object: 'deal',
  id: 1,
  version: 1,
  values: { name: 'Two rooms', stage: 'hp-sized', pipeline: 'hp' },
}

describe.each(STEP_NAMES)('step %s', (name) => {
  const step = STEPS[name]

  it.each(step.examples.map((example) => [example.say, example] as const))(
    '%s',
    (_say, { params, object = 'deal', record: given = {}, expect: expected }) => {
      expect(step.params.safeParse(params).success).toBe(true)
      const outcome = step.run(params, nothingAround(object, given))
      expect(outcome).toMatchObject(expected)
    },
  )

  it.each((step.ways?.examples ?? []).map((example) => [example.say, example] as const))(
    '%s',
    (_say, { params, object = 'deal', record: given = {}, linked = [], branches, holding = [], expect: expected }) => {
      expect(step.params.safeParse(params).success).toBe(true)
      for (const branch of branches) if ('way' in expected) expect(step.ways?.misfit(branches, branch)).toBeNull()
      const chosen = step.ways?.choose?.(params, branches, {
        ...nothingAround(object, given),
        linked: (of) =>
          linked.map((id) => ({ record: { object: of, id, version: 1, values: {} }, main: false, role: '' })),
        holds: ({ id }) => ({ holds: holding.includes(id), seen: [] }),
      })
      expect(
        chosen &&
          ('none' in chosen ? { none: chosen.none.code } : { way: chosen.branch.id, records: chosen.records.length }),
      ).toEqual(expected)
    },
  )

  it('has examples', () => {
    expect(step.examples.length + (step.ways?.examples?.length ?? 0)).toBeGreaterThan(0)
  })

  it('has a form for each param, can be looked for, and begins with something that names what is missing', () => {
    expect(Object.keys(step.form).sort()).toEqual(Object.keys(step.start).sort())
    expect(step.alsoCalled.length).toBeGreaterThan(0)
    for (const object of step.objects) {
      const { rule } = addStep(
        { ...blankRule(object, 'x'), triggers: [{ id: 't1', kind: 'recurring', params: TRIGGERS.recurring.start }] },
        name,
        atEnd(null),
        catalogue,
      )
      // Only a wait and a call are whole from the beginning.
      expect(checkRule(rule, catalogue).length > 0).toBe(!['wait', 'makeCall'].includes(name))
      expect(readRule(JSON.parse(JSON.stringify(rule))).ok).toBe(true)
      expect(plainSentence(step.sentence(step.start, names(object)))).not.toMatch(/undefined|null/)
    }
  })

  it('puts every param that a sentence names into its form', () => {
    for (const { params } of step.examples) {
      for (const part of step.sentence(params, names()))
        if ('param' in part) expect(step.form).toHaveProperty(part.param)
    }
  })
})

describe.each(TRIGGER_NAMES)('trigger %s', (name) => {
  const trigger = TRIGGERS[name]

  it.each(trigger.examples.map((example) => [example.say, example] as const))(
    '%s',
    (_say, { object, params, event, starts }) => {
      expect(trigger.params.safeParse(params).success).toBe(true)
      expect(trigger.compile(params, names(object))(event)).toBe(starts)
      if (starts) expect(trigger.because(params, event, names(object))).not.toMatch(/undefined|null/)
    },
  )

  it('has a form for each param and says itself before it is finished', () => {
    expect(Object.keys(trigger.form).sort()).toEqual(Object.keys(trigger.start).sort())
    for (const object of trigger.objects)
      expect(plainSentence(trigger.sentence(trigger.start, names(object)))).not.toMatch(/undefined|null/)
  })
})

describe('the document', () => {
  const good = document({
    when: [enters('hp-quoted')],
    onlyIf: all(condition('amount', 'moreThan', { value: 1 }, false, 'c1')),
    then: [set('units', 1)],
  })
  it.each([
    ['an unknown step', { ...good, steps: [{ id: 's1', kind: 'launch', params: {} }] }, /steps/],
    ['an unknown trigger', { ...good, triggers: [{ id: 't1', kind: 'fullMoon', params: {} }] }, /triggers/],
    [
      'params that do not fit a step',
      { ...good, steps: [{ id: 's1', kind: 'setField', params: { field: 7 } }] },
      /steps\.0\.params/,
    ],
    [
      'params that do not fit an operator',
      { ...good, conditions: all(condition('amount', 'moreThan', { value: 'much' }, false, 'c1')) },
      /conditions\.c1\.params\.value/,
    ],
    ['a later format', { ...good, format: RULE_FORMAT + 1 }, /format/],
    ['a field of its own making', { ...good, colour: 'red' }, /colour/],
    ['an id that stands twice', { ...good, steps: [...good.steps, ...good.steps] }, /is used twice/],
    [
      'too many steps',
      { ...good, steps: Array.from({ length: 201 }, (_, i) => ({ ...good.steps[0]!, id: `s${i}` })) },
      /steps/,
    ],
  ])('refuses %s with its place', (_what, given, place) => {
    const read = readRule(given)
    expect(read.ok).toBe(false)
    if (!read.ok) expect(sayProblem(read.problem)).toMatch(place)
  })

  it('refuses groups that nest too deep', () => {
    let group = all()
    for (let i = 0; i < 12; i++) group = { kind: 'group', id: `g${i}`, mode: 'all', items: [group] }
    expect(readRule({ ...good, conditions: group }).ok).toBe(false)
  })
})

describe('what keeps a rule off', () => {
  const at = (rule: Parameters<typeof checkRule>[0]) =>
    checkRule(rule, catalogue).map((finding) => `${finding.part} ${finding.id} ${finding.param}: ${finding.text}`)

  it('names each thing at its place', () => {
    expect(at(blankRule('deal', 'x'))).toEqual(['rule  triggers: Add a trigger', 'rule  steps: Add a step'])
    expect(
      at(
        document({
          when: [enters('gone')],
          onlyIf: all(
            condition('kind', 'is', { value: 'rented' }, false, 'c1'),
            condition('amount', 'contains', { value: 'x' }, false, 'c2'),
          ),
          then: [set('pipeline', 'hp'), set('amount', 'much'), task('Ring {{deal.nothing}}')],
        }),
      ),
    ).toEqual([
      'trigger t1 stage: Choose a stage',
      'condition c1 value: “rented” is not a choice. Choices: Hire, Purchase and Service.',
      'condition c2 op: “contains” is not available for currency fields.',
      'step s1 field: “Pipeline” is read-only: set from the stage.',
      'step s2 source: This value can’t be used in a currency field.',
      'step s3 title: Merge field {{deal.nothing}} does not exist.',
    ])
  })

  it('refuses parts that are not for this kind of record', () => {
    expect(
      at(
        document({
          object: 'contact',
          when: [enters('hp-quoted')],
          then: [['moveStage', { stage: 'hp-terms', backwards: false, across: false }]],
        }),
      ).filter((line) => line.includes('is not available for contacts')),
    ).toHaveLength(2)
  })
})

describe('editing', () => {
  it('builds a rule word by word', () => {
    let rule = blankRule('deal', 'Built')
    const trigger = addTrigger(rule, 'entersStage', catalogue)
    rule = setWord(trigger.rule, { part: 'trigger', id: trigger.id }, 'stage', 'hp-quoted', catalogue)
    const asked = addCondition(rule, 'c0', 'amount', catalogue)
    rule = setWord(asked.rule, { part: 'condition', id: asked.id }, 'value', 7, catalogue)
    const step = addStep(rule, 'setField', atEnd(null), catalogue)
    rule = setWord(step.rule, { part: 'step', id: step.id }, 'field', 'units', catalogue)
    rule = setWord(rule, { part: 'step', id: step.id }, 'source', { from: 'value', value: 2 }, catalogue)
    expect(sayRule(rule, catalogue)).toEqual({
      when: 'a deal enters Quoted (Hire & purchase)',
      onlyIf: 'its amount is €7',
      then: ['set the units to 2'],
    })
    expect(checkRule(rule, catalogue)).toEqual([])
    expect(partOf(rule, { part: 'condition', id: asked.id })?.params).toEqual({ field: 'amount', value: 7 })
    expect(partOf(rule, { part: 'step', id: 'gone' })).toBeNull()
    // Another field begins its value anew; the same one leaves it.
    expect(setWord(rule, { part: 'step', id: step.id }, 'field', 'kind', catalogue).steps[0]?.params).toEqual({
      field: 'kind',
      source: { from: 'value', value: null },
      keepByHand: false,
    })
    expect(setWord(rule, { part: 'step', id: step.id }, 'field', 'units', catalogue).steps[0]).toEqual(rule.steps[0])
    expect(
      removePart(removePart(removePart(rule, { part: 'step', id: 's1' }), { part: 'trigger', id: 't1' }), {
        part: 'condition',
        id: 'c1',
      }),
    ).toEqual(blankRule('deal', 'Built'))
    expect(addGroup(rule, 'c0').rule.conditions.items).toHaveLength(2)
  })

  it('moves steps, and leaves them at the ends', () => {
    const rule = document({ when: [], then: [set('units', 1), set('units', 2)] })
    expect(moveStep(rule, 's2', -1).steps.map((step) => step.id)).toEqual(['s2', 's1'])
    expect(moveStep(rule, 's1', -1)).toBe(rule)
    expect(moveStep(rule, 's2', 1)).toBe(rule)
  })

  it('carries steps between rules as text, with ids of their own', () => {
    const rule = document({ when: [], then: [set('units', 1)] })
    const pasted = pasteSteps(rule, stepsToText([...rule.steps, { ...rule.steps[0]!, id: 's9' }]), {
      branch: null,
      at: 0,
    })
    expect(pasted.ok && pasted.value.rule.steps.map((step) => step.id)).toEqual(['s2', 's3', 's1'])
    for (const text of [
      '',
      'hello',
      '{}',
      '{"sky-lever-steps":[]}',
      '{"sky-lever-steps":[{"id":"s1","kind":"nope","params":{}}]}',
      'null',
    ])
      expect(pasteSteps(rule, text, atEnd(null)).ok).toBe(false)
    expect(
      pasteSteps(
        { ...rule, object: 'contact' },
        stepsToText([{ id: 's1', kind: 'moveStage', params: { stage: 'hp-terms', backwards: false, across: false } }]),
        atEnd(null),
      ).ok,
    ).toBe(false)
  })
})

describe('merge fields', () => {
  it('are the fields of the record and of its main linked ones', () => {
    const of = (object: 'deal' | 'contact' | 'company') =>
      new Set(mergeFields(object, catalogue).map((field) => field.object))
    expect([of('deal'), of('contact'), of('company')]).toEqual([
      new Set(['deal', 'contact', 'company']),
      new Set(['contact', 'company']),
      new Set(['company', 'contact']),
    ])
  })

  it('are filled, and a blank one says so', () => {
    const contact: RecordSnapshot = { object: 'contact', id: 2, version: 1, values: { name: 'Ida <b>Frost</b>' } }
    const fill = (text: string) =>
      fillText(
        text,
        { ...record, values: { ...record.values, amount: 5, currency: 'cad' } },
        (object) => (object === 'contact' ? contact : null),
        catalogue,
      )
    expect(fill('{{contact.name}}: {{ deal.amount }} {{deal.closeDate}} {{company.name}}')).toBe(
      'Ida <b>Frost</b>: CA$5 (no expected close) (no company)',
    )
  })

  it('cut any text into pieces that make it up again', () => {
    fc.assert(
      fc.property(
        fc
          .array(fc.oneof(fc.string(), fc.constantFrom('{{deal.name}}', '{{', '}}', '{{deal}}', '{{ contact.email }}')))
          .map((parts) => parts.join('')),
        (text) => {
          const parts = splitText(text)
          expect(parts.map((part) => ('merge' in part ? '{{x}}' : part.text)).join('')).toBe(
            text.replace(/\{\{\s*[a-z]+\.[A-Za-z][A-Za-z\d]*\s*\}\}/g, '{{x}}'),
          )
        },
      ),
      { seed: 11, numRuns: 300 },
    )
  })

  it('never run anything', () => {
    expect(
      checkText('{{deal.constructor}} {{deal.__proto__}} {{process.env}}', 'deal', catalogue).map(
        (problem) => problem.code,
      ),
    ).toEqual(['unknownMerge', 'brokenMerge', 'unknownMerge'])
    // What was meant to be one would go out to somebody as it stands there.
    expect(
      checkText(
        'Ring {{name}} about {{deal.expected close}}, {{deal.name} or {contact.name}}: {fine}',
        'deal',
        catalogue,
      ),
    ).toEqual(
      ['{{name}}', '{{deal.expected close}}', '{{deal.name}', '{contact.name}}'].map((raw) => ({
        code: 'brokenMerge',
        raw,
      })),
    )
    expect(checkText('{{deal.name}} {{ contact.name }} {one} brace', 'deal', catalogue)).toEqual([])
    expect(fillText('{{deal.constructor}}', record, () => null, catalogue)).toBe('(no constructor)')
  })
})

it('compiled rules keep their document', () => {
  expect(zRule.parse(active(1, { when: [enters('hp-quoted')], then: [task('x')] }).document).steps).toHaveLength(1)
})

describe('where a rule is found', () => {
  const plain = document({ when: [enters('hp-quoted')], then: [task('Ring')] })

  it('changes nothing that it does', () => {
    expect(doSame(plain, { ...plain, folder: 'Quotes', labels: ['money'] })).toBe(true)
    expect(doSame(plain, { ...plain, name: 'Another' })).toBe(false)
  })

  it('is kept with it, and refused where it is no name', () => {
    const read = readRule({ ...plain, folder: ' Quotes ', labels: ['money', 'urgent'] })
    expect(read.ok && [read.value.folder, read.value.labels]).toEqual(['Quotes', ['money', 'urgent']])
    expect(readRule({ ...plain, folder: ' ' }).ok).toBe(false)
    expect(readRule({ ...plain, labels: Array.from({ length: 13 }, (_, n) => `l${n}`) }).ok).toBe(false)
  })
})
