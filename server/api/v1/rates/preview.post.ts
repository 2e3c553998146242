export default defineRoute('POST /rates/preview', ({ body: { text } }) => useReader().ask('ratesPlan', text))
