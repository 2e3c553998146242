import { describe, expect, it } from 'vitest'
import { all, condition, document, enters, set, task } from '../../core/testing/rules'
import { conditionSentence } from '../../core/conditions/compile'
import { plainSentence } from '../../core/language/sentence'
import { larkmoor, switchOn } from '../testing/workspace'
import { refusal } from '../testing/refusal'
import { fieldSheet } from '../views/field-sheet'
import { recordPage } from '../views/record'
import { addChoice, changeChoice, changeField, fieldOf, keyOf, makeField } from './fields'
import { RefusedError, type Workspace } from './workspace'

const given = {
  object: 'deal',
  label: 'Floor type',
  type: 'choice',
  description: 'What it stands on',
  choices: ['Concrete', 'Tiles'],
} as const
const field = (workspace: Workspace, key: string) => workspace.catalogue().fieldOnce('deal', key)!

describe('keys of fields', () => {
  it.each([
    ['Floor type', 'floorType'],
    ['  Größe (m²) ', 'groeM2'],
    ['2nd visit', 'ndVisit'],
    ['!!!', 'field'],
    ['Name', 'name2'],
  ])('%s is %s', (label, key) => {
    expect(keyOf(label, new Set(['name']))).toMatch(key === 'groeM2' ? /^gro\w*M2$/ : new RegExp(`^${key}$`))
  })
})

describe('making a field', () => {
  it('it can be written, asked, and seen at once; other threads notice', () => {
    const { workspace, reopen } = larkmoor()
    const other = reopen()
    const { id, key } = makeField(workspace, given)
    expect(key).toBe('floorType')
    const ref = workspace.create('deal', { name: 'D', stage: 'hp-sized', floorType: 'tiles' }, [], 'ines').ref
    other.keepUp()
    expect(other.catalogue().field('deal', 'floorType')).toMatchObject({
      id,
      label: 'Floor type',
      choices: [
        { id: 'concrete', label: 'Concrete' },
        { id: 'tiles', label: 'Tiles' },
      ],
    })
    expect(other.store.records.read(ref)?.values.floorType).toBe('tiles')
    expect(fieldSheet(other, 'deal').lines.find((line) => line.field.key === key)).toMatchObject({
      filled: 1,
      samples: [{ text: 'Tiles', count: 1 }],
      uses: [],
      choices: { concrete: { records: 0, rules: 0 }, tiles: { records: 1, rules: 0 } },
    })
  })

  it('refuses what would confuse: a label twice, choices twice or none, a second stage', () => {
    const { workspace } = larkmoor()
    makeField(workspace, given)
    expect(refusal(() => makeField(workspace, { ...given, label: ' FLOOR  type' }))).toBe(
      'label: A field named “Floor type” already exists.',
    )
    expect(refusal(() => makeField(workspace, { ...given, label: 'Other', choices: [] }))).toBe(
      'choices: Add at least one choice.',
    )
    expect(refusal(() => makeField(workspace, { ...given, label: 'Other', choices: ['A', 'á'] }))).toBe(
      'choices: Two choices are the same.',
    )
    expect(refusal(() => makeField(workspace, { ...given, label: 'Other', type: 'stage' }))).toBe(
      'type: This type is only for the stage of deals.',
    )
    expect(makeField(workspace, { ...given, object: 'company' }).key).toBe('floorType')
  })
})

describe('changing a field', () => {
  it('a new name shows everywhere at once, in old journal entries too, and rules follow', () => {
    const { workspace } = larkmoor()
    makeField(workspace, given)
    const ref = workspace.create('deal', { name: 'D', stage: 'hp-sized' }, [], 'ines').ref
    workspace.change(ref, { floorType: 'tiles' }, 'rosa')
    changeField(workspace, field(workspace, 'floorType'), { label: 'Ground', description: 'below' })
    changeChoice(workspace, field(workspace, 'floorType'), 'tiles', { label: 'Old tiles' })
    const [change] = recordPage(workspace, ref)?.timeline ?? []
    expect(change).toMatchObject({ what: 'change', changes: [{ label: 'Ground', new: 'Old tiles' }] })
    expect(workspace.store.records.read(ref)?.values.floorType).toBe('tiles')
  })

  it('a phrase of its own is what sentences say, and without one they say the label', () => {
    const { workspace } = larkmoor()
    makeField(workspace, given)
    const said = () => {
      const catalogue = workspace.catalogue()
      const asked = condition('floorType', 'is', { value: 'tiles' }, false, 'c1')
      return plainSentence(conditionSentence(asked, 'deal', catalogue))
    }
    expect(said()).toContain('its floor type is')
    changeField(workspace, field(workspace, 'floorType'), { phrase: 'covering of the floor' })
    expect(said()).toContain('its covering of the floor is')
    expect(field(workspace, 'floorType').label).toBe('Floor type')
    changeField(workspace, field(workspace, 'floorType'), { phrase: null })
    expect(said()).toContain('its floor type is')
  })

  it('what a rule names cannot vanish under it; what nobody names is put away and comes back with its values', () => {
    const { workspace } = larkmoor()
    const { id } = makeField(workspace, given)
    const ref = workspace.create('deal', { name: 'D', stage: 'hp-sized', floorType: 'tiles' }, [], 'ines').ref
    const rule = switchOn(
      workspace,
      document(
        {
          when: [enters('hp-quoted')],
          onlyIf: all(condition('floorType', 'is', { value: 'tiles' }, false, 'c1')),
          then: [set('units', 2)],
        },
        'Tiles',
      ),
    )
    const another = workspace.store.rules.create(
      document({ when: [enters('hp-quoted')], then: [task('On {{deal.floorType}}')] }, 'Draft'),
      'ines',
      1,
    )
    expect(refusal(() => changeField(workspace, field(workspace, 'floorType'), { archived: true }))).toBe(
      'archived: “Floor type” can’t be archived: it is used by rules “Tiles” and “Draft”. Remove it there first.',
    )
    for (const one of [rule, another]) workspace.store.rules.setState(one, 'archived', 'ines', 1)
    changeField(workspace, field(workspace, 'floorType'), { archived: true })
    expect(workspace.catalogue().field('deal', 'floorType')).toBeNull()
    expect(workspace.store.records.read(ref)?.values).not.toHaveProperty('floorType')
    expect(() => workspace.change(ref, { floorType: 'concrete' }, 'rosa')).toThrow(RefusedError)
    // What happened to it can still be told, by what it was called.
    expect(JSON.stringify(recordPage(workspace, ref)?.timeline)).toContain('Floor type')
    expect(fieldSheet(workspace, 'deal').lines.find((line) => line.archived)).toMatchObject({
      field: { key: 'floorType' },
      filled: 1,
    })
    // Its key is not given to another one, whose values would be mistaken for its own.
    expect(makeField(workspace, given).key).toBe('floorType2')
    expect(refusal(() => changeField(workspace, fieldOf(workspace, id)!, { archived: false }))).toBe(
      'label: A field named “Floor type” already exists.',
    )
    changeField(workspace, field(workspace, 'floorType2'), { label: 'Other floor' })
    changeField(workspace, fieldOf(workspace, id)!, { archived: false })
    expect(workspace.store.records.read(ref)?.values).toMatchObject({ floorType: 'tiles', floorType2: null })
  })

  it('a field that is shown to whoever starts a rule by hand stays while that rule does', () => {
    const { workspace } = larkmoor()
    makeField(workspace, given)
    switchOn(
      workspace,
      document(
        {
          when: [['byHand', { button: 'Look', facts: ['name', 'floorType'], questions: [] }]],
          then: [task('Look')],
        },
        'By hand',
      ),
    )
    expect(refusal(() => changeField(workspace, field(workspace, 'floorType'), { archived: true }))).toBe(
      'archived: “Floor type” can’t be archived: it is used by rule “By hand”. Remove it there first.',
    )
  })

  it('what the system needs can be renamed and no more', () => {
    const { workspace } = larkmoor()
    const stage = field(workspace, 'stage')
    expect(refusal(() => changeField(workspace, stage, { archived: true }))).toBe(
      'archived: “Stage” is a system field and can’t be archived.',
    )
    expect(refusal(() => changeField(workspace, field(workspace, 'owner'), { required: true }))).toBe(
      'required: “Owner” can’t be changed.',
    )
    changeField(workspace, stage, { label: 'Phase' })
    expect(workspace.catalogue().field('deal', 'stage')?.label).toBe('Phase')
    expect(refusal(() => addChoice(workspace, field(workspace, 'stage'), 'X'))).toBe(': “Phase” has no choices.')
  })
})

describe('choices', () => {
  it('are added once, however often and however written, and stand in the order they are put in', () => {
    const { workspace } = larkmoor()
    makeField(workspace, given)
    const now = () => field(workspace, 'floorType')
    expect(addChoice(workspace, now(), 'Épôxy')).toEqual({ id: 'epoxy', added: true })
    expect(addChoice(workspace, now(), ' EPOXY')).toEqual({ id: 'epoxy', added: false })
    // A word that only looks like another one's id gets an id of its own.
    changeChoice(workspace, now(), 'epoxy', { label: 'Resin' })
    expect(addChoice(workspace, now(), 'Epoxy')).toEqual({ id: 'epoxy-2', added: true })
    changeChoice(workspace, now(), 'epoxy-2', { before: 'concrete' })
    changeChoice(workspace, now(), 'concrete', { before: null })
    expect(now().choices.map((choice) => choice.id)).toEqual(['epoxy-2', 'tiles', 'epoxy', 'concrete'])
    expect(refusal(() => changeChoice(workspace, now(), 'tiles', { label: 'resin' }))).toBe(
      'label: Choice “Resin” already exists.',
    )
    expect(refusal(() => changeChoice(workspace, now(), 'tiles', { before: 'gone' }))).toBe(
      'before: Choice “gone” does not exist.',
    )
  })
})
