export default defineRoute('DELETE /account/calendar-feed', ({ workspace, person }) => {
  workspace.store.booking.removeFeed(person.id)
  return { ok: true }
})
