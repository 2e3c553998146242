export default defineRoute('GET /people', ({ workspace }) => ({ people: workspace.catalogue().people }))
