import { ruleSchema } from '../../../core/formats/rule-text'

export default defineRoute('GET /rule-schema', ({ event }) => {
  setResponseHeader(event, 'content-type', 'application/schema+json')
  return ruleSchema() as Record<string, unknown>
})
