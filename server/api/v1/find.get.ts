import { OBJECTS } from '../../../core/records/kinds'
import { EMPTY_GROUP } from '../../../core/conditions/document'
import { foldText } from '../../../core/fields/value'
import { ACTS } from '../../utils/acts'
import { ledgerPage } from '../../views/ledger'

/** Records and rules by name. */
export default defineRoute('GET /find', ({ workspace, scope, person, query: { words } }) => ({
  records: OBJECTS.flatMap((object) => ledgerPage(workspace, { object, scope, filter: EMPTY_GROUP, words, sort: 'name', down: false, offset: 0, limit: 6 })
    .rows.map((row) => ({ ref: { object, id: row.id }, name: String(row.values.name ?? '') }))),
  rules: !ACTS[person.role].includes('readRules') ? [] : workspace.store.rules.all().filter((rule) => foldText(rule.draft.name).includes(foldText(words))).slice(0, 6)
    .map((rule) => ({ id: rule.id, name: rule.draft.name, state: rule.state })),
}))
