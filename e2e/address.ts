/** So many test files run at once, each over a server and a workspace of its own. */
export const WORKERS = 2
const FIRST_PORT = 3117

/** Where the server of one of them listens. */
export const baseOf = (worker: number): string => `http://localhost:${FIRST_PORT + worker}`
/** The specialist's cookie there. */
export const signedInAt = (worker: number): string => `test-results/signed-in-${worker}.json`

/** Which of them this process is; the first one, where nothing runs in parallel. */
export const WORKER = Number(process.env.TEST_PARALLEL_INDEX ?? 0)
export const BASE = baseOf(WORKER)

/** A filled demo workspace that is copied for each server. */
export const FILLED = '.data/e2e-filled.db'
