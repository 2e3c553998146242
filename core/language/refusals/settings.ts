import { count, listOf, plural } from '../counts'
import { sayInUse, type UsedBy } from '../uses'
import { capital, NOUNS, type CountedObject } from '../nouns'

/** What there can be one of by a name. */
const NAMED = {
  template: 'A template',
  field: 'A field',
  pipeline: 'A pipeline',
  segment: 'A segment',
  scorecard: 'A scorecard',
  synonymSet: 'A synonym set',
} as const

/** What there can be only so many of. */
const LIMITED = {
  template: 'templates',
  field: 'fields per record type',
  choice: 'choices per field',
  pipeline: 'pipelines',
  stage: 'stages',
  segment: 'segments per record type',
  scorecard: 'scorecards',
  activityKind: 'kinds of your own',
} as const

/** What may stand only once among others. */
const TWO = { choice: 'choices', stage: 'stages' } as const

/** What the ways in which a workspace is set up are refused with. */
export const SETTING_REFUSALS = {
  sameName: ({ of, name }: { readonly of: keyof typeof NAMED; readonly name: string }) =>
    `${NAMED[of]} named “${name}” already exists.`,
  noMoreThan: ({ of, most }: { readonly of: keyof typeof LIMITED; readonly most: number }) =>
    `No more than ${most} ${LIMITED[of]}.`,
  twice: ({ of }: { readonly of: keyof typeof TWO }) => `Two ${TWO[of]} are the same.`,
  inUse: (facts: {
    readonly name: string
    readonly cannot: 'archived' | 'removed' | 'deleted' | 'changed'
    readonly by: UsedBy
  }) => sayInUse(facts.name, facts.cannot, facts.by),

  noChoices: ({ field }: { readonly field: string }) => `“${field}” has no choices.`,
  firstChoice: () => 'Add at least one choice.',
  lastChoice: () => 'The last choice can’t be removed.',
  otherChoice: () => 'Choose another choice.',
  choiceThere: ({ choice }: { readonly choice: string }) => `Choice “${choice}” already exists.`,
  noSuchChoice: ({ choice }: { readonly choice: string }) => `Choice “${choice}” does not exist.`,
  choiceHeld: ({ records }: { readonly records: number }) =>
    `${count(records, 'record')} ${plural(records, 'has', 'have')} this choice. Choose a replacement.`,
  systemField: ({ field, cannot }: { readonly field: string; readonly cannot: 'be archived' | 'change its type' }) =>
    `“${field}” is a system field and can’t ${cannot}.`,
  fixedField: ({ field }: { readonly field: string }) => `“${field}” can’t be changed.`,
  noSuchField: ({ field }: { readonly field: string }) => `There is no field “${field}”.`,
  onlyForStage: () => 'This type is only for the stage of deals.',
  sameType: ({ field }: { readonly field: string }) => `“${field}” already has this type.`,
  notConverted: (facts: { readonly records: number; readonly example: string; readonly said: string }) =>
    `${count(facts.records, 'record')} ${plural(facts.records, 'has', 'have')} values that can’t be converted, for example “${facts.example}”: ${facts.said}`,
  nowInField: () => 'now() can’t be used in a field because it changes constantly. Use today().',
  noFieldOf: ({ gives }: { readonly gives: string }) => `${capital(gives)} can’t be saved in a field.`,
  fieldTypes: ({ gives, types }: { readonly gives: string; readonly types: readonly string[] }) =>
    `The result is ${gives}. Choose the type ${listOf(types, 'or')}.`,
  typeMustBe: ({ type }: { readonly type: string }) => `The type must be ${type}.`,
  circularReference: ({ fields }: { readonly fields: readonly string[] }) =>
    `Circular reference: ${fields.join(' → ')}`,
  rollUpOver: ({ object, over }: { readonly object: CountedObject; readonly over: CountedObject }) =>
    `${capital(NOUNS[object].many)} can’t be linked to ${NOUNS[over].many}.`,
  sortable: () => 'Sort by a number or a date.',
  chooseField: () => 'Choose a field.',
  rollUpOf: ({ what }: { readonly what: string }) => `${capital(what)} is not available for this field.`,
  keepsMaking: ({ field }: { readonly field: string }) => `“${field}” can’t switch between formula and roll-up.`,

  stageThere: ({ pipeline, stage }: { readonly pipeline: string; readonly stage: string }) =>
    `${pipeline} already has a stage “${stage}”.`,
  notThere: ({ name }: { readonly name: string }) => `“${name}” does not exist.`,
  lastStage: () => 'A pipeline needs at least one stage.',
  otherStage: () => 'Choose another stage.',
  stageHeld: ({ deals }: { readonly deals: number }) =>
    `${count(deals, 'deal')} ${plural(deals, 'is', 'are')} in this stage. Choose where to move ${plural(deals, 'it', 'them')}.`,
  whichPipeline: () => 'Choose a pipeline for these stages.',
  noSuchPipeline: ({ pipeline }: { readonly pipeline: string }) => `There is no pipeline “${pipeline}”.`,

  territoryTwice: ({ name }: { readonly name: string }) => `Two territories are named “${name}”.`,
  cannotCover: ({ person, territory }: { readonly person: string; readonly territory: string }) =>
    `“${person}” can’t cover ${territory}. Choose an active person.`,
  closesBeforeOpening: () => 'The closing time must be after the opening time.',
  listedTwice: ({ what }: { readonly what: string }) => `${what} is listed twice.`,

  asksItself: ({ segment }: { readonly segment: string }) =>
    `“${segment}” can’t ask about itself, directly or through another segment.`,
  segmentUsed: ({
    by,
    name,
  }: {
    readonly by: 'segment' | 'territory' | 'scorecard' | 'field'
    readonly name: string
  }) => `This segment is used by the ${by} “${name}”.`,

  noScoresOf: () => 'Only contacts and companies can have scores.',
  ownActivity: ({ object }: { readonly object: CountedObject }) =>
    `Choose “the ${NOUNS[object].one}” for the ${NOUNS[object].one}’s own activity.`,
  mostAboveLeast: () => 'The maximum must be higher than the minimum.',
  bandOrder: ({ band }: { readonly band: string }) => `“${band}” must start above the band before it.`,
  idTwice: ({ id }: { readonly id: string }) => `ID “${id}” is used twice.`,
  noPoints: () => 'Enter points other than 0.',

  spellingTwice: (facts: { readonly spelling: string; readonly first: string; readonly second: string }) =>
    `“${facts.spelling}” is listed under “${facts.first}” and under “${facts.second}”. Remove one.`,
  synonymsUsed: ({ field, object }: { readonly field: string; readonly object: CountedObject }) =>
    `This synonym set can’t be deleted: it is used by ${field} (${NOUNS[object].many}).`,
  notATextField: ({ field }: { readonly field: string }) => `“${field}” is not a text field.`,
  synonymsOfNames: () => 'Names can’t use synonyms.',
  noSynonyms: () => 'This synonym set does not exist.',

  ownCurrency: ({ currency }: { readonly currency: string }) => `${currency} is the currency of this workspace.`,
  currencyUnused: ({ currency }: { readonly currency: string }) => `No currency field has the choice ${currency}.`,
  future: ({ day }: { readonly day: string }) => `${day} is in the future.`,
  rateAboveZero: () => 'A rate is more than 0.',

  keepsChannel: () => 'A template keeps its channel: rules that use it send by it.',
  notATimeZone: ({ zone }: { readonly zone: string }) => `“${zone}” is no time zone.`,
  standsTwice: ({ what }: { readonly what: string }) => `“${what}” stands there twice.`,
  teamHasAddress: ({ team }: { readonly team: string }) => `“${team}” has an address already.`,

  activityThere: ({ name }: { readonly name: string }) => `There is an activity “${name}” already.`,
  mostValues: ({ most }: { readonly most: number }) => `At most ${count(most, 'value')}.`,
  notAKey: ({ key }: { readonly key: string }) =>
    `“${key}” is no key: use letters and digits, beginning with a small letter.`,
  keyThere: ({ key }: { readonly key: string }) => `“${key}” is there already.`,
  noLabel: () => 'Enter a label.',
  keepsType: ({ value }: { readonly value: string }) => `“${value}” keeps its type. Add another value instead.`,
  noSuchActivity: () => 'There is no such activity.',
  activityTells: ({ key }: { readonly key: string }) => `This activity tells nothing called “${key}”.`,
  matchAmongFilled: () => 'The field that records are found by has to be among those that are filled.',
  noSuchRule: () => 'There is no such rule.',

  emailOf: ({ person }: { readonly person: string }) => `Enter an email address for ${person}.`,
  emailTaken: () => 'This email is already in use.',
} as const
