export default defineRoute('PUT /booking-pages/:slug', ({ workspace, params: { slug }, body }) => {
  if (slug === 'appointment')
    throw new ProblemError(422, 'Not saved', 'This address is in use.', [
      { path: 'slug', text: 'Choose another address.' },
    ])
  const unknown = body.people.find((id) => !workspace.catalogue().person(id)?.active)
  if (unknown !== undefined)
    throw new ProblemError(422, 'Not saved', 'One of these people does not work here.', [
      { path: 'people', text: `${unknown.slice(0, 60)} does not work here.` },
    ])
  workspace.store.booking.put(slug, body, workspace.clock.nowMs())
  return { ok: true }
})
