import { useRefusals } from '.'
import { FILE_REFUSALS } from './files'
import { RECORD_REFUSALS } from './records'
import { SETTING_REFUSALS } from './settings'

/** Whoever imports this can say what the server refuses. */
useRefusals({ ...FILE_REFUSALS, ...RECORD_REFUSALS, ...SETTING_REFUSALS })
