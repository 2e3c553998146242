export default defineRoute('GET /synonyms', ({ workspace }) => ({ sets: workspace.catalogue().data.synonyms ?? [] }))
