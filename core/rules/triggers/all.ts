// Every trigger kind there is, one line each. Adding a kind is its folder and its line here.
export { created } from './created'
export { entersStage } from './enters-stage'
export { fieldChanges } from './field-changes'
