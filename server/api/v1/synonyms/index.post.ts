import { makeSynonymSet } from '../../../engine/synonyms'

export default defineRoute('POST /synonyms', ({ workspace, body: { name, groups } }) => ({
  id: makeSynonymSet(workspace, name, groups),
}))
