import { z } from 'zod'
import { showAnswer } from '../../utils/answer'

export default defineFrontDoor(z.record(z.string().max(60), z.string().max(4000)), (form, event) =>
  showAnswer(event, form),
)
