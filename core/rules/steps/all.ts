// Every step kind there is, one line each. Adding a kind is its folder and its line here.
export { assignOwner } from './assign-owner'
export { createTask } from './create-task'
export { linkMatch } from './link-match'
export { moveStage } from './move-stage'
export { setField } from './set-field'
