// Every kind of signal there is, one line each. Their names are kept with what waits and never change.
export { clock } from './clock'
export { field } from './field'
export { hand } from './hand'
export { label } from './label'
export { link } from './link'
export { record } from './record'
export { score } from './score'
export { segment } from './segment'
