/**
 * Rule documents of format 1, read as those of now. Format 2 calls an email one: what was `tell` of a task and `mail` of
 * a notification is `email` in both. Whatever is no document of format 1 comes back as it is.
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

/** A wait has a branch for each of its ends; one that was written before has none yet. */
function withEnds(given: unknown): unknown {
  if (!isJson(given)) return given
  const branches = Array.isArray(given.branches)
    ? given.branches.map((branch: unknown) =>
        isJson(branch) && Array.isArray(branch.steps) ? { ...branch, steps: branch.steps.map(withEnds) } : branch,
      )
    : given.kind === 'waitFor' && typeof given.id === 'string'
      ? ['came', 'ranOut'].map((end) => ({ id: `${given.id as string}-${end}`, steps: [] }))
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
  const now = { ...given, format: 2 }
  if (!Array.isArray(given.steps)) return now
  const steps: readonly unknown[] = given.format === 1 ? given.steps.map(step) : given.steps
  return { ...now, steps: steps.map(withEnds) }
}
