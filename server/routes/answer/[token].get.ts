import { showAnswer } from '../../utils/answer'

/** What is asked. Looking answers nothing: mail programs follow links by themselves. */
export default defineFrontDoor(null, (_, event) => showAnswer(event, null))
