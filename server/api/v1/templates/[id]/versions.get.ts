export default defineRoute('GET /templates/:id/versions', ({ workspace, params: { id } }) => {
  if (!workspace.catalogue().template(id)) throw notFound(`template ${id}`)
  return {
    versions: workspace.store.templates.versions(id).map(({ version, variants, changedBy, changedAt }) => ({
      version,
      variants: variants.map((one) => ({ ...one })),
      changedBy: changedBy === null ? null : (workspace.catalogue().person(changedBy)?.name ?? changedBy),
      changedAt,
    })),
  }
})
