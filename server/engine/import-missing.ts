import type { Missing } from '../../core/formats/csv/missing'
import type { ImportMapping, Target } from '../../core/formats/csv/import'
import type { ImportRow } from '../store/imports'
import { addChoice, makeField } from './fields'
import { addStage, makePipeline } from './pipelines'
import { freshPersonId, newPerson } from './set-up'
import { RefusedError, type Workspace } from './workspace'
import { refuse } from './refuse'

/** What is refused is told by its place in all that was asked for. */
function at<T>(place: string, work: () => T): T {
  try {
    return work()
  } catch (error) {
    if (!(error instanceof RefusedError)) throw error
    throw new RefusedError(error.problems.map(({ problem }) => ({ path: place, problem })))
  }
}

/**
 * Makes the choices, stages, people and fields that a file names and that are not in the workspace, all of them or
 * none, and sends the columns of new fields to them. Refuses what cannot be made by its place, `people.0.email`.
 */
export function makeMissing(workspace: Workspace, row: Pick<ImportRow, 'id' | 'mapping'>, missing: Missing): void {
  try {
    workspace.db.atomically(() => {
      missing.choices.forEach(({ field: key, words }, i) => {
        const place = `choices.${i}`
        words.forEach(({ text }, w) => {
          // Each choice changes the field: it is looked up anew.
          const field = workspace.catalogue().field(row.mapping.object, key)
          if (!field) throw refuse(`${place}.field`, { code: 'noSuchField', field: key })
          at(`${place}.words.${w}`, () => addChoice(workspace, field, text))
        })
      })
      missing.stages.forEach((group, i) => at(`stages.${i}`, () => makeStages(workspace, group)))
      missing.people.forEach((person, i) => makePerson(workspace, person, `people.${i}`))
      const targets = makeFields(workspace, row.mapping, missing.fields)
      workspace.store.imports.setMapping(row.id, { ...row.mapping, targets })
    })
  } catch (error) {
    // Fields and people were known here already that are dropped again.
    workspace.keepUp()
    throw error
  }
  workspace.live.tell({ about: 'imports', id: row.id })
}

function makeStages(workspace: Workspace, { pipeline, named, stages }: Missing['stages'][number]): void {
  const given = stages.map(({ text, outcome }) => ({ name: text, outcome }))
  if (pipeline === null) {
    if (named === null) throw refuse('', { code: 'whichPipeline' })
    makePipeline(workspace, named, given)
    return
  }
  for (const stage of given) {
    const found = workspace.catalogue().pipeline(pipeline)
    if (!found) throw refuse('', { code: 'noSuchPipeline', pipeline })
    addStage(workspace, found, stage)
  }
}

/** Somebody who owns records and cannot sign in before a specialist gives a password. */
function makePerson(workspace: Workspace, { name, ...person }: Missing['people'][number], place: string): void {
  const email = person.email?.toLowerCase() ?? null
  if (email === null) throw refuse(`${place}.email`, { code: 'emailOf', person: name })
  const { people } = workspace.catalogue()
  if (people.some((one) => one.email.toLowerCase() === email)) throw refuse(`${place}.email`, { code: 'emailTaken' })
  const id = freshPersonId(
    name,
    people.map((one) => one.id),
  )
  workspace.store.people.add(newPerson({ id, name, email, role: 'owner', team: '', title: '' }), null)
  workspace.tellCatalogue()
}

function makeFields(workspace: Workspace, mapping: ImportMapping, fields: Missing['fields']): Target[] {
  const targets: Target[] = [...mapping.targets]
  fields.forEach(({ column, label, type, choices }, i) => {
    const { key } = at(`fields.${i}`, () =>
      makeField(workspace, { object: mapping.object, label, type, description: '', choices }),
    )
    while (targets.length <= column) targets.push({ to: 'skip' })
    targets[column] = { to: 'field', field: key }
  })
  return targets
}
