import { addConnection } from '../../../engine/connections'

export default defineRoute('POST /connections', ({ workspace, body: { name, address, headers } }) =>
  addConnection(workspace, name, address, headers),
)
