/** Which fields are being worked out for all records just now, and how far that has come. */
export default defineRoute('GET /derived-fields', ({ workspace }) => ({
  jobs: workspace.store.derive
    .openJobs()
    .map(({ id, fieldIds, done, total }) => ({ id, fieldIds: [...fieldIds], done, total })),
}))
