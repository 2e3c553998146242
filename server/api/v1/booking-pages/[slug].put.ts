export default defineRoute('PUT /booking-pages/:slug', ({ workspace, params: { slug }, body }) => {
  if (slug === 'appointment') throw new ProblemError({ code: 'pageAddressInUse' })
  const unknown = body.people.find((id) => !workspace.catalogue().person(id)?.active)
  if (unknown !== undefined) throw new ProblemError({ code: 'personNotHere', person: unknown.slice(0, 60) })
  workspace.store.booking.put(slug, body, workspace.clock.nowMs())
  return { ok: true }
})
