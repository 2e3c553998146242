/** The parts of a workspace that a key for the API can be for. */
export const AREAS = ['records', 'rules', 'tasks', 'files', 'people', 'workspace'] as const
export type Area = (typeof AREAS)[number]

export const AREA_WORDS: { readonly [A in Area]: string } = {
  records: 'Records, links, fields and scores',
  rules: 'Rules and runs',
  tasks: 'Tasks',
  files: 'Imports and exports',
  people: 'People',
  workspace: 'Workspace and screens',
}
