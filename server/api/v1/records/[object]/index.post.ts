/** Creates a record and lets rules see it. */
export default defineRoute(
  'POST /records/:object',
  ({ workspace, person, scope, params: { object }, body: { values, links } }) => {
    for (const link of links) visibleRecord({ workspace, scope }, link)
    const { ref, reports } = workspace.create(object, values, links, person.id)
    return { ref, runs: reports.length }
  },
)
