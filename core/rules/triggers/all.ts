// Every trigger kind there is, one line each. Adding a kind is its folder and its line here.
export { byHand } from './by-hand'
export { changed } from './changed'
export { created } from './created'
export { createdOrChanged } from './created-or-changed'
export { deleted } from './deleted'
export { entersStage } from './enters-stage'
export { fieldChanges } from './field-changes'
export { leavesStage } from './leaves-stage'
