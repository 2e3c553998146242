export default defineRoute(
  'GET /boards/:pipeline',
  async ({ workspace, scope, params: { pipeline }, query: { owner } }) => {
    if (!workspace.catalogue().pipeline(pipeline)) throw notFound(`pipeline “${pipeline}”`)
    return { stages: await useReader().ask('board', { pipeline, owner: owner ?? null, scope }) }
  },
)
