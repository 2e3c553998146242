import { addIntake } from '../../../engine/intakes'

export default defineRoute('POST /intakes', ({ workspace, person, body: { name, verify, into } }) =>
  addIntake(workspace, name, verify, into, person.id),
)
