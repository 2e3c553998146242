import { sayProblem } from '../language/problems'
import { describe, expect, it } from 'vitest'
import { active, all, condition, document, enters, given, set, task, type StepLine } from '../testing/rules'
import { TestWorld } from '../testing/world'
import { checkRule } from './check'
import { sayRule } from './describe'
import { STEP_DEPTH_MOST, STEPS_MOST, type RuleDocument, type Step } from './document'
import {
  addBranch,
  addCondition,
  addStep,
  atEnd,
  moveBranch,
  moveStep,
  objectAt,
  objectOfPlace,
  pasteSteps,
  removeBranch,
  removePart,
  setGroupMode,
  setWord,
  stepsToText,
} from './edit'
import { placedBranches, placedSteps } from './tree'
import { usesChoice, usesField, usesStage } from './uses'
import { readRule } from './schema'
import { catalogue } from '../testing/setting'

const large = given('c10', condition('amount', 'moreThan', { value: 10_000 }, false, 'c11'))
const middle = given('c20', condition('amount', 'moreThan', { value: 1_000 }, false, 'c21'))
const bySize: StepLine = [
  'choosePath',
  {},
  [
    large,
    set('units', 3),
    [
      'choosePath',
      {},
      [given('c30', condition('kind', 'is', { value: 'hire' }, false, 'c31')), task('Hire it')],
      [null, set('notes', 'bought')],
    ],
  ],
  [middle, set('units', 2)],
  [null, set('units', 1)],
]
const rule = document({ when: [enters('hp-quoted')], then: [bySize, task('Thank them')] }, 'By size')
const labels = (of: RuleDocument) => placedSteps(of).map(({ label, step }) => `${label} ${step.kind}`)

/** What a rule did to a deal with these values. */
function run(
  of: RuleDocument,
  values: Readonly<Record<string, string | number | null>>,
  prepare: (world: TestWorld) => void = () => {},
) {
  const world = new TestWorld()
  const ref = world.add('deal', 1, { owner: 'rosa', ...values })
  prepare(world)
  world.drain([])
  world.change(ref, { stage: 'hp-quoted' })
  const [report] = world.drain([{ ...active(1, { when: [], then: [] }), document: of }])
  return {
    world,
    ref,
    report,
    values: world.read(ref)?.values,
    tasks: world.state.tasks.map((one) => `${one.ref.object} ${one.ref.id}: ${one.title}`),
  }
}

describe('choosing a path', () => {
  it('goes the first that fits, nested ones too, and what stands below goes on', () => {
    expect(run(rule, { amount: 50_000, kind: 'hire' })).toMatchObject({
      values: { units: 3 },
      tasks: ['deal 1: Hire it', 'deal 1: Thank them'],
    })
    expect(run(rule, { amount: 50_000, kind: 'service' })).toMatchObject({
      values: { units: 3, notes: 'bought' },
      tasks: ['deal 1: Thank them'],
    })
    expect(run(rule, { amount: 5_000 })).toMatchObject({ values: { units: 2 } })
    expect(run(rule, { amount: null })).toMatchObject({ values: { units: 1 } })
  })

  it('keeps which way was gone and the values that were seen there', () => {
    const { report } = run(rule, { amount: 5_000 })
    expect(report?.steps[0]).toMatchObject({
      state: 'done',
      wrote: [
        {
          what: 'way',
          branch: 'b4',
          say: 'its amount is more than €1,000 (then €5,000)',
          seen: [{ id: 'c21', holds: true }],
        },
      ],
    })
    expect(run(rule, { amount: 1 }).report?.steps[0]).toMatchObject({
      wrote: [{ branch: 'b5', say: 'no earlier path was true' }],
    })
  })

  it('sees what steps before it wrote', () => {
    const after = document({ when: [enters('hp-quoted')], then: [set('amount', 20_000), bySize] })
    expect(run(after, { amount: 1 }).values).toMatchObject({ units: 3 })
  })

  it('ends the whole run where it says stop', () => {
    const stops = document({
      when: [enters('hp-quoted')],
      then: [
        ['choosePath', {}, [large, ['stop', { because: '{{deal.name}} is too large' }], set('notes', 'never')], [null]],
        task('Thank them'),
      ],
    })
    const { report, tasks, values } = run(stops, { amount: 50_000 })
    expect(report).toMatchObject({
      state: 'done',
      steps: [{}, { wrote: [{ what: 'stop', because: 'deal 1 is too large' }] }],
    })
    expect([tasks, values?.notes]).toEqual([[], undefined])
    expect(run(stops, { amount: 5 }).tasks).toEqual(['deal 1: Thank them'])
  })
})

describe('one path per value', () => {
  const byKind = document({
    when: [enters('hp-quoted')],
    then: [
      [
        'pathPerValue',
        { field: 'kind' },
        ['hire', set('units', 1)],
        ['purchase', set('units', 2)],
        [null, set('units', 9)],
      ],
    ],
  })

  it('goes the path of the value, and the last one for any other and for none', () => {
    expect(['hire', 'purchase', 'service', null].map((kind) => run(byKind, { kind }).values?.units)).toEqual([
      1, 2, 9, 9,
    ])
    expect(run(byKind, { kind: 'hire' }).report?.steps[0]).toMatchObject({
      wrote: [{ branch: 'b1', say: 'kind was Hire' }],
    })
  })

  it('makes all its paths at once when its field is chosen, and tells which value has none', () => {
    const added = addStep(document({ when: [enters('hp-quoted')], then: [] }), 'pathPerValue', atEnd(null), catalogue)
    const made = setWord(added.rule, { part: 'step', id: added.id }, 'field', 'kind', catalogue)
    expect(made.steps[0]?.branches?.map((branch) => branch.value)).toEqual(['hire', 'purchase', 'service', undefined])
    // Paths that hold something are kept when another field is chosen.
    const filled = addStep(made, 'setField', atEnd('b2'), catalogue).rule
    expect(
      setWord(filled, { part: 'step', id: added.id }, 'field', 'customer', catalogue).steps[0]?.branches,
    ).toHaveLength(4)
    const fewer = removeBranch(made, made.steps[0]!.branches![1]!.id)
    expect(addBranch(fewer, added.id, 'purchase').rule.steps[0]?.branches?.map((branch) => branch.value)).toEqual([
      'hire',
      'service',
      'purchase',
      undefined,
    ])
  })
})

describe('for each linked record', () => {
  const closing = document({
    when: [enters('hp-quoted')],
    then: [
      [
        'eachLinked',
        { to: 'contact' },
        [
          given('c10', condition('email', 'isEmpty', {}, true, 'c11')),
          set('phone', '+441632960000'),
          task('Write to {{contact.name}}'),
        ],
      ],
      task('All written to'),
    ],
  })

  it('works on each that fits, keeps whose result it was, and comes back to its own record', () => {
    const { world, tasks, report } = run(closing, {}, (one) => {
      for (const [id, email] of [
        [2, 'a@x.example'],
        [3, null],
        [4, 'b@x.example'],
      ] as const)
        one.link({ object: 'deal', id: 1 }, one.add('contact', id, { email, owner: 'jude' }))
    })
    expect(tasks).toEqual(['contact 2: Write to contact 2', 'contact 4: Write to contact 4', 'deal 1: All written to'])
    expect([2, 3, 4].map((id) => world.read({ object: 'contact', id })?.values.phone)).toEqual([
      '+441632960000',
      undefined,
      '+441632960000',
    ])
    expect(report?.steps.map((step) => step.on?.id ?? null)).toEqual([null, 2, 2, 4, 4, null])
    expect(report?.steps[0]).toMatchObject({ wrote: [{ say: '2 of 3 linked contacts' }] })
  })

  it('says when there is none, and goes on', () => {
    expect(run(closing, {})).toMatchObject({
      tasks: ['deal 1: All written to'],
      report: { steps: [{ state: 'skipped', reason: { code: 'noLinks' } }, {}] },
    })
  })
})

describe('the sheet of a rule with paths', () => {
  it('numbers every step and says itself in one line', () => {
    expect(labels(rule)).toEqual([
      '1 choosePath',
      '1a1 setField',
      '1a2 choosePath',
      '1a2a1 createTask',
      '1a2·otherwise 1 setField',
      '1b1 setField',
      '1·otherwise 1 setField',
      '2 createTask',
    ])
    expect(placedBranches(rule).map((one) => one.label)).toEqual(['1a', '1a2a', '1a2·otherwise', '1b', '1·otherwise'])
    expect(sayRule(rule, catalogue).then[0]).toMatch(
      /^take the first path whose conditions are true \(if its amount is more than €10,000: set the units to 3, take .*\(if its kind is Hire: create a task .*; otherwise: set the notes to “bought”\); if .*: set the units to 2; otherwise: set the units to 1\)$/,
    )
    expect(checkRule(rule, catalogue)).toEqual([])
  })

  it('is edited in place, however deep', () => {
    const deeper = addStep(rule, 'setField', atEnd('b2'), catalogue)
    const named = setWord(deeper.rule, { part: 'step', id: deeper.id }, 'field', 'units', catalogue)
    expect(placedSteps(named).find(({ step }) => step.id === deeper.id)).toMatchObject({
      label: '1a2a2',
      step: { params: { field: 'units' } },
    })
    const asked = addCondition(rule, 'c30', 'units', catalogue)
    expect(objectAt(asked.rule, asked.id)).toBe('deal')
    expect(
      setWord(asked.rule, { part: 'condition', id: asked.id }, 'value', 4, catalogue).steps[0]?.branches?.[0]?.steps[1]
        ?.branches?.[0]?.when?.items,
    ).toHaveLength(2)
    expect(setGroupMode(rule, 'c20', 'none').steps[0]?.branches?.[1]?.when?.mode).toBe('none')
    expect(removePart(rule, { part: 'condition', id: 'c21' }).steps[0]?.branches?.[1]?.when?.items).toEqual([])
    expect(checkRule(removePart(rule, { part: 'condition', id: 'c21' }), catalogue)).toMatchObject([
      { part: 'branch', id: 'b4', text: 'Add a condition to this path' },
    ])
    expect(labels(removePart(rule, { part: 'step', id: 's3' }))).toEqual([
      '1 choosePath',
      '1a1 setField',
      '1b1 setField',
      '1·otherwise 1 setField',
      '2 createTask',
    ])
  })

  it('moves paths among each other, with "otherwise" always last, and steps out of a path at its ends', () => {
    const order = (of: RuleDocument) => of.steps[0]?.branches?.map((branch) => branch.id)
    expect(order(moveBranch(rule, 'b4', -1))).toEqual(['b4', 'b1', 'b5'])
    expect(moveBranch(rule, 'b4', 1)).toBe(rule)
    expect(moveBranch(rule, 'b5', -1)).toBe(rule)
    expect(order(addBranch(rule, 's1').rule)).toEqual(['b1', 'b4', 'b6', 'b5'])
    expect(labels(moveStep(rule, 's2', -1))[0]).toBe('1 setField')
    expect(labels(moveStep(rule, 's4', 1)).slice(1, 5)).toEqual([
      '1a1 setField',
      '1a2 choosePath',
      '1a2·otherwise 1 setField',
      '1a3 createTask',
    ])
  })

  it('leaves steps where they are that would work on another kind of record outside', () => {
    const each = document({
      when: [],
      then: [['eachLinked', { to: 'contact' }, [given('c1'), set('phone', '+441632960000')]]],
    })
    expect(moveStep(each, 's2', -1)).toBe(each)
    expect(objectOfPlace(each, 'b1')).toBe('contact')
  })

  it('is copied with everything inside, under ids of its own', () => {
    const pasted = pasteSteps(rule, stepsToText([rule.steps[0]!]), atEnd('b5'))
    if (!pasted.ok) throw new Error('not pasted')
    expect(readRule(pasted.value.rule).ok).toBe(true)
    expect(labels(pasted.value.rule)).toHaveLength(15)
  })

  it('says where it names a field, a choice and a stage, also in paths and on linked records', () => {
    expect(usesField(rule, 'deal', 'kind')).toBe(true)
    expect(usesChoice(rule, 'deal', 'kind', 'hire')).toBe(true)
    expect(usesChoice(rule, 'deal', 'kind', 'service')).toBe(false)
    const each = document({
      object: 'company',
      when: [],
      then: [
        [
          'eachLinked',
          { to: 'deal' },
          [given('c1', condition('stage', 'is', { value: 'hp-terms' }, false, 'c2')), set('lostReason', 'price')],
        ],
      ],
    })
    expect([
      usesField(each, 'deal', 'lostReason'),
      usesField(each, 'company', 'lostReason'),
      usesStage(each, 'hp-terms'),
      usesStage(each, 'hp-lost'),
    ]).toEqual([true, false, true, false])
    const byStage = document({
      when: [],
      then: [['pathPerValue', { field: 'stage' }, ['hp-terms', set('units', 1)], ['hp-lost'], [null]]],
    })
    expect([usesStage(byStage, 'hp-terms'), usesStage(byStage, 'hp-lost')]).toEqual([true, false])
  })
})

describe('documents with paths that do not fit', () => {
  const why = (steps: unknown): string => {
    const read = readRule({ ...(JSON.parse(JSON.stringify(rule)) as object), steps })
    return read.ok ? '' : sayProblem(read.problem)
  }
  const branch = (more: object, id = 'b1') => ({ id, steps: [], ...more })

  it.each([
    [
      'a path without conditions before the last',
      [{ id: 's1', kind: 'choosePath', params: {}, branches: [branch({}), branch({}, 'b2')] }],
      /This path has no conditions/,
    ],
    [
      'a last path with conditions',
      [{ id: 's1', kind: 'choosePath', params: {}, branches: [branch({ when: large })] }],
      /The last path can’t have conditions/,
    ],
    [
      'two paths of one value',
      [
        {
          id: 's1',
          kind: 'pathPerValue',
          params: { field: 'kind' },
          branches: [branch({ value: 'hire' }), branch({ value: 'hire' }, 'b2'), branch({}, 'b3')],
        },
      ],
      /Another path already has this value/,
    ],
    ['ways of a step that has none', [{ id: 's1', kind: 'stop', params: { because: 'x' }, branches: [] }], /branches/],
    ['a step that is missing its ways', [{ id: 's1', kind: 'choosePath', params: {} }], /branches/],
    [
      'an id that stands twice',
      [{ id: 's1', kind: 'choosePath', params: {}, branches: [branch({ when: large }), branch({})] }],
      /is used twice/,
    ],
  ])('are refused by name: %s', (_say, steps, reason) => expect(why(steps)).toMatch(reason))

  it('are refused when they are too deep or too long', () => {
    const nested = (depth: number): StepLine =>
      depth === 0 ? set('units', 1) : ['choosePath', {}, [null, nested(depth - 1)]]
    expect(document({ when: [], then: [nested(STEP_DEPTH_MOST)] }).steps).toSatisfy(
      (steps: Step[]) => why(steps) === '',
    )
    expect(why(document({ when: [], then: [nested(STEP_DEPTH_MOST + 1)] }).steps)).toMatch(/10 levels deep at most/)
    const many = Array.from({ length: STEPS_MOST / 2 + 1 }, () => set('units', 1))
    expect(
      why(document({ when: [], onlyIf: all(), then: [['choosePath', {}, [null, ...many]], ...many] }).steps),
    ).toMatch(/at most 200 steps/)
  })
})
