/** What a rule comes to on the records that are there, unsaved edits included. */
export default defineRoute('POST /evidence', ({ body: { document } }) => useReader().ask('evidence', document))
