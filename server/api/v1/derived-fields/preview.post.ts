/** What a formula or a roll-up would come to, before it is kept. */
export default defineRoute('POST /derived-fields/preview', ({ body, scope }) =>
  useReader().ask('making', { ...body, scope }),
)
