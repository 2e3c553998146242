import { ruleToJson, ruleToYaml } from '../../../../../core/formats/rule-text'
import { ruleToText } from '../../../../../core/formats/rule-words'

const KINDS = {
  yaml: ['application/yaml', 'yaml'],
  json: ['application/json', 'json'],
  words: ['text/plain', 'txt'],
} as const

/** A rule as a file, or as text to be read. */
export default defineRoute('GET /rules/:id/text', ({ event, workspace, params: { id }, query: { as, what } }) => {
  const rule = workspace.store.rules.get(id)
  const document = what === 'draft' ? rule?.draft : rule?.version?.document
  if (!document) throw notFound(rule ? `a version of rule ${id}` : `rule ${id}`)
  const broken = what === 'draft' ? rule?.draftProblem : rule?.version?.problem
  const [media, ending] = KINDS[broken === null ? as : 'json']
  setResponseHeader(event, 'content-type', `${media}; charset=utf-8`)
  setResponseHeader(event, 'content-disposition', `attachment; filename="rule-${id}.${ending}"`)
  // What cannot be read goes out as it is stored, so that nothing of it is lost.
  if (broken !== null) return JSON.stringify(workspace.store.rules.stored(id, what), null, 2)
  return as === 'yaml'
    ? ruleToYaml(document)
    : as === 'json'
      ? ruleToJson(document)
      : ruleToText(document, workspace.catalogue())
})
