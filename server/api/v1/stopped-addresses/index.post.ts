import { neverWriteTo } from '../../../engine/message-settings'

export default defineRoute('POST /stopped-addresses', ({ workspace, person, body: { addresses } }) =>
  neverWriteTo(workspace, addresses, person.id),
)
