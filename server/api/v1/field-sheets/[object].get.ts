export default defineRoute('GET /field-sheets/:object', ({ params: { object } }) => useReader().ask('fields', object))
