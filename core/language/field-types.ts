/** Every type that a field can have. */
export const FIELD_TYPE_NAMES = [
  'text',
  'longText',
  'number',
  'currency',
  'percent',
  'date',
  'dateTime',
  'yesNo',
  'choice',
  'choices',
  'email',
  'phone',
  'link',
  'person',
  'stage',
  'pipeline',
] as const
export type FieldTypeName = (typeof FIELD_TYPE_NAMES)[number]
