import { extra, type SentencePart } from '../language/sentence'
import type { Widget } from '../language/widgets'

/** Whether a rule's conditions are asked again behind a wait. */

const AGAIN = 'then continue only if the conditions are still true'
const ANYWAY = 'then continue in any case'

export const RECHECK: Widget = { widget: 'toggle', on: AGAIN, off: ANYWAY }

export const sayRecheck = (recheck: boolean): SentencePart => extra('recheck', recheck ? AGAIN : ANYWAY, recheck)
