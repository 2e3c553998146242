import { OBJECTS } from '../../../core/records/kinds'
import { EMPTY_GROUP } from '../../../core/conditions/document'
import { foldText } from '../../../core/language/value'
import { ACTS } from '../../../core/access/acts'

/** Records and rules by name. */
export default defineRoute('GET /find', async ({ workspace, scope, person, query: { words } }) => {
  const pages = await Promise.all(
    OBJECTS.map(async (object) => {
      const { rows } = await useReader().ask('ledger', {
        object,
        scope,
        filter: EMPTY_GROUP,
        words,
        sort: 'name',
        down: false,
        offset: 0,
        limit: 6,
      })
      return rows.map((row) => ({ ref: { object, id: row.id }, name: String(row.values.name ?? '') }))
    }),
  )
  return {
    records: pages.flat(),
    rules: !ACTS[person.role].includes('readRules')
      ? []
      : workspace.store.rules
          .all()
          .filter((rule) => foldText(rule.draft.name).includes(foldText(words)))
          .slice(0, 6)
          .map((rule) => ({ id: rule.id, name: rule.draft.name, state: rule.state })),
  }
})
