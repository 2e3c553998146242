import type { RetentionKind } from '../../../core/records/retention'
import { activities } from './activities'
import { conversations } from './conversations'
import { events } from './events'
import { history } from './history'
import { importFiles } from './import-files'
import type { Kept } from './kept'
import { keptOutRuns } from './kept-out-runs'
import { messages } from './messages'
import { notices } from './notices'
import { visitors } from './visitors'

/** In the order in which they are gone through: events may go once nothing that is kept names them. */
export const KEPT_KINDS: Readonly<Record<RetentionKind, Kept>> = {
  keptOutRuns,
  history,
  events,
  messages,
  conversations,
  notices,
  activities,
  visitors,
  importFiles,
}
