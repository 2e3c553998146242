import { z } from 'zod'
import { OBJECTS } from '../../../core/records/kinds'
import { EMPTY_GROUP } from '../../../core/conditions/document'
import { foldText } from '../../../core/fields/value'
import { ledgerPage } from '../../views/ledger'

const query = z.object({ words: z.string().trim().min(1).max(100) })

/** Records and rules by name. */
export default defineRoute({ act: 'read', query }, ({ workspace, query: { words } }) => ({
  records: OBJECTS.flatMap((object) => ledgerPage(workspace, { object, filter: EMPTY_GROUP, words, sort: 'name', down: false, offset: 0, limit: 6 })
    .rows.map((row) => ({ ref: { object, id: row.id }, name: String(row.values.name ?? '') }))),
  rules: workspace.store.rules.all().filter((rule) => foldText(rule.draft.name).includes(foldText(words))).slice(0, 6)
    .map((rule) => ({ id: rule.id, name: rule.draft.name, state: rule.state })),
}))
