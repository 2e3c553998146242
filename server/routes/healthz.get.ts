/** Whether the process lives. Asks nothing of the database. */
export default defineEventHandler(() => ({ ok: true }))
