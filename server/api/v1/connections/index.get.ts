import { workspace as table } from '../../../db/schema/catalogue'
import { USUAL_ANSWER } from '../../../stand-ins/receiver'

export default defineRoute('GET /connections', ({ workspace }) => ({
  connections: [...(workspace.catalogue().data.connections ?? [])].map((one) => ({
    ...one,
    headers: [...one.headers],
  })),
  simulated: workspace.db.orm.select({ answer: table.simulatedAnswer }).from(table).get()?.answer ?? USUAL_ANSWER,
}))
