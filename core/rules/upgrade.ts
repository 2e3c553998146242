/**
 * Rule documents of format 1, read as those of now. Format 2 calls an email one: what was `tell` of a task and `mail`
 * of a notification is `email` in both. Whatever is no document of format 1 comes back as it is.
 */
type Json = Readonly<Record<string, unknown>>
const isJson = (given: unknown): given is Json => typeof given === 'object' && given !== null && !Array.isArray(given)

const RENAMED: Readonly<Record<string, string>> = { createTask: 'tell', notify: 'mail' }

function step(given: unknown): unknown {
  if (!isJson(given)) return given
  const was = RENAMED[String(given.kind)]
  const params =
    isJson(given.params) && was !== undefined && was in given.params ? emailIn(given.params, was) : given.params
  const branches = Array.isArray(given.branches)
    ? given.branches.map((branch: unknown) =>
        isJson(branch) && Array.isArray(branch.steps) ? { ...branch, steps: branch.steps.map(step) } : branch,
      )
    : given.branches
  return { ...given, params, ...(branches === undefined ? {} : { branches }) }
}

const isTexts = (given: unknown): boolean => Array.isArray(given) && given.every((one) => typeof one === 'string')

/** Labels were added and removed by the step that sets a field; they have one of their own. */
function labelStep(given: Json): Json {
  if (given.kind !== 'setField' || !isJson(given.params) || !isJson(given.params.source)) return given
  const { field, source } = given.params
  const how = source.from === 'remove' ? 'remove' : source.from === 'add' && isTexts(source.value) ? 'add' : null
  if (how === null) return given
  const labels = typeof source.value === 'string' ? [source.value] : (source.value ?? null)
  return { ...given, kind: 'changeLabels', params: { how, labels, field: field ?? null } }
}

/** Whether a deal was moved beside another one was yes or no; by now it says beside which. */
function besideStep(given: Json): Json {
  if (given.kind !== 'moveStage' || !isJson(given.params) || 'beside' in given.params) return given
  const { second, ...params } = given.params
  // It is asked only of a deal that comes from another pipeline.
  if (second === undefined && params.across !== true) return given
  return { ...given, params: { ...params, beside: second === true ? 'none' : 'company', alike: 'kind' } }
}

/** What a wait does where its date is empty was called `goOn`. */
function waitStep(given: Json): Json {
  if (given.kind !== 'wait' || !isJson(given.params) || given.params.whenEmpty !== 'goOn') return given
  return { ...given, params: { ...given.params, whenEmpty: 'continue' } }
}

/** A label that came or went was one way for a field to change; it is a trigger of its own. */
function labelTrigger(given: unknown): unknown {
  if (!isJson(given) || given.kind !== 'fieldChanges' || !isJson(given.params)) return given
  const { field, how, to } = given.params
  if (how !== 'gains' && how !== 'loses') return given
  return {
    ...given,
    kind: 'labelChanges',
    params: {
      labels: typeof to === 'string' ? [to] : (to ?? null),
      how: how === 'gains' ? 'added' : 'removed',
      field: field ?? null,
    },
  }
}

/** A wait has a branch for each of its ends, and a new record one for itself; what was written before has none yet. */
function withEnds(was: unknown): unknown {
  if (!isJson(was)) return was
  const given = waitStep(besideStep(labelStep(was)))
  const branches = Array.isArray(given.branches)
    ? given.branches.map((branch: unknown) =>
        isJson(branch) && Array.isArray(branch.steps) ? { ...branch, steps: branch.steps.map(withEnds) } : branch,
      )
    : given.kind === 'waitFor' && typeof given.id === 'string'
      ? ['came', 'ranOut'].map((end) => ({ id: `${given.id as string}-${end}`, steps: [] }))
      : given.kind === 'createRecord' && typeof given.id === 'string'
        ? [{ id: `${given.id}-made`, steps: [] }]
        : given.branches
  return { ...given, ...(branches === undefined ? {} : { branches }) }
}

function emailIn(params: Json, was: string): Json {
  const { [was]: email, ...rest } = params
  return { ...rest, email }
}

/** A document of an earlier form, as those of now. */
export function upgradeRule(given: unknown): unknown {
  if (!isJson(given) || (given.format !== 1 && given.format !== 2)) return given
  const { triggers } = given
  const now = { ...given, format: 2, ...(Array.isArray(triggers) ? { triggers: triggers.map(labelTrigger) } : {}) }
  if (!Array.isArray(given.steps)) return now
  const steps: readonly unknown[] = given.format === 1 ? given.steps.map(step) : given.steps
  return { ...now, steps: steps.map(withEnds) }
}
