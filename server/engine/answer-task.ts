import { readAnswered } from '../../core/rules/answered'
import type { TaskRow } from '../store/tasks'
import { finishTask } from './finish-task'
import { RefusedError, type Workspace } from './workspace'

/**
 * Completes a task for somebody, with the answers where it asks for something.
 *
 * @throws RefusedError where answers are missing or do not fit, with the place of each
 */
export function answerTask(
  workspace: Workspace,
  task: TaskRow,
  personId: string,
  outcome: string,
  answers: Readonly<Record<string, unknown>> | undefined,
): void {
  if (!task.asks) {
    finishTask(workspace, task, personId, outcome)
    return
  }
  const read = readAnswered(task.asks, answers ?? {}, task.object, workspace.catalogue())
  if ('problems' in read)
    throw new RefusedError(read.problems.map(({ path, problem }) => ({ path: `answers.${path}`, problem })))
  finishTask(workspace, task, personId, outcome, read.answered)
}
