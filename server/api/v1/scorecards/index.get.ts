export default defineRoute('GET /scorecards', ({ workspace }) => ({
  scorecards: workspace.catalogue().data.scorecards ?? [],
}))
