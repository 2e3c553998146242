/**
 * What older test cases expect is told as it would be told now: the words of an ending have changed, not the ending.
 */
const NOW: readonly (readonly [then: RegExp, now: string])[] = [
  [/^(?:(?:ended|missed): )+/, ''],
  [/, when nothing ran$/, ' while the server was down'],
  [/^what it asks for is no longer true$/, 'conditions were no longer true'],
  [/^not every condition held$/, 'conditions were not true'],
  [/^the record is no longer there$/, 'the record was deleted'],
  [/^the record went into another one$/, 'the record was merged into another'],
  [/^the step it waited at is no longer there$/, 'the step it was waiting at no longer exists'],
  [/^(.+) (?:ended it|called it off)(: .*)?$/, 'ended by $1$2'],
]

export const asToldNow = (text: string): string => NOW.reduce((said, [then, now]) => said.replace(then, now), text)
