import type { Area } from '../../core/access/areas'
import type { Section } from '../contract/contract'

/** The area of each part of the API, for keys that are for some of it. */
export const AREA_OF: { readonly [S in Exclude<Section, 'Account'>]: Area } = {
  Records: 'records',
  Links: 'records',
  Fields: 'records',
  Scores: 'records',
  Activities: 'records',
  Appointments: 'records',
  Messages: 'records',
  'Web requests': 'workspace',
  Rules: 'rules',
  Runs: 'rules',
  Tasks: 'tasks',
  Files: 'files',
  People: 'people',
  Workspace: 'workspace',
  Screens: 'workspace',
}
