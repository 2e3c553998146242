import { linkedKinds } from '#core/conditions/linked'
import { OBJECT_WORDS, type ObjectKind } from '#core/records/kinds'

/** The kinds of records that can be asked about as linked ones of a kind. */
export const linkedOptions = (of: ObjectKind) =>
  linkedKinds(of).map((kind) => ({
    value: kind,
    label: OBJECT_WORDS[kind].many,
    hint: `linked to the ${OBJECT_WORDS[of].one}`,
  }))
