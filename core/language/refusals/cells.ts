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
} as const
