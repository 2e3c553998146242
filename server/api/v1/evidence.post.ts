import { z } from 'zod'
import { zRule } from '../../../core/rules/document'
import { evidenceFor } from '../../views/evidence'

const body = z.strictObject({ document: zRule })

/** What a rule comes to on the records that are there, unsaved edits included. */
export default defineRoute({ route: 'POST /evidence', body }, ({ workspace, body: { document } }) => evidenceFor(workspace, document))
