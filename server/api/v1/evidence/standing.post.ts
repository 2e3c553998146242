/** How many records stand in what the triggers of a rule watch, unsaved edits included. */
export default defineRoute('POST /evidence/standing', ({ body: { document, passedDays } }) =>
  useReader().ask('existing', { ruleId: null, document, passedDays }),
)
