/** What a cell of a decision table cannot hold. */
export const CELL_REFUSALS = {
  notPlainNumber: ({ raw, plain }: { readonly raw: string; readonly plain: string | null }) =>
    `“${raw}” is not a plain number.${plain === null ? '' : ` Write ${plain}.`}`,
  emptyRange: ({ raw }: { readonly raw: string }) => `${raw} contains no values.`,
  noBrackets: ({ from, to }: { readonly from: string; readonly to: string }) =>
    `Add brackets: [${from}..${to}] includes both ends, [${from}..${to}) excludes the last.`,
  severalRanges: () => 'One range, or several values. Use another row.',
  otherThanRange: () => 'not(…) takes values. Write the other range.',
  /** "2,500" is mostly one number, and by the comma two. */
  oneOrSeveral: ({ raw }: { readonly raw: string }) =>
    `“${raw}” could be one number or several. Write ${raw.replaceAll(',', '')}, or ${raw.replaceAll(',', ', ')}.`,
  openList: () => 'The list is not closed.',
  noOrderOfTexts: ({ raw }: { readonly raw: string }) =>
    `Texts have no order. Write ${JSON.stringify(raw)} if it is the text itself.`,
  noQuotes: ({ raw }: { readonly raw: string }) => `Write ${JSON.stringify(raw)} in quotes if it is a text.`,
  /** Tests of a file with decision tables, which are written otherwise than cells. */
  openEnd: () => 'Something is missing at the end.',
  notFixed: ({ raw }: { readonly raw: string }) => `“${raw}” is not a fixed value.`,
  notText: ({ raw }: { readonly raw: string }) => `${raw} is not a text.`,
  notDay: ({ raw }: { readonly raw: string }) => `${raw} is not a date.`,
  noRanges: ({ kinds }: { readonly kinds: string }) => `A column of ${kinds} has no ranges.`,
  rangeEnds: ({ one }: { readonly one: string }) => `A range here needs ${one} at each end.`,
  rangeForm: () => 'A range is written [1..5].',
  rangeOpen: () => 'A range ends with ] or ).',
  rangeOfNone: () => 'The range contains no values.',
  nullAmong: () => 'null stands alone: “null”, or “not(null)”.',
  otherKind: ({ kinds, one }: { readonly kinds: string; readonly one: string }) =>
    `This is a column of ${kinds}, and needs ${one}.`,
  notOfField: ({ raw, field }: { readonly raw: string; readonly field: string }) =>
    `${raw} is not a value of ${field}.`,
  emptyToo: () => 'not(…) of a range also takes what is empty. Write the other range.',
  rangesInCell: () => 'Several ranges in one cell are not supported.',
  openNot: () => 'not( is not closed.',
  notUnderstood: ({ raw }: { readonly raw: string }) => `“${raw}” is not understood here.`,
} as const
