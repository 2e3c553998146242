export default defineRoute('DELETE /booking-pages/:slug', ({ workspace, params: { slug } }) => {
  if (!workspace.store.booking.remove(slug)) throw notFound(`booking page ${slug}`)
  return { ok: true }
})
