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

function emailIn(params: Json, was: string): Json {
  const { [was]: email, ...rest } = params
  return { ...rest, email }
}

export const upgradeRule = (given: unknown): unknown =>
  isJson(given) && given.format === 1
    ? { ...given, format: 2, ...(Array.isArray(given.steps) ? { steps: given.steps.map(step) } : {}) }
    : given
