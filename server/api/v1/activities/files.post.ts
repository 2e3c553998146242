/** The same from a CSV file. */
export default defineRouteAwaiting('POST /activities/files', async ({ body: { text } }) => {
  const { refused, ...told } = await useBulk().ask('tellActivityFile', text)
  return { ...told, refused: [...refused] }
})
