import { WEBSITE_POLICY, websitePage } from '../../stand-ins/website'

/** The website of the demo's firm; no other workspace has one. */
export default defineEventHandler((event) => {
  const path = (getRouterParam(event, 'page') ?? '').replace(/\/+$/, '')
  const page = useWorkspace().catalogueOrNull()?.workspace.demo ? websitePage(path) : null
  setResponseHeaders(event, {
    'content-type': 'text/html; charset=utf-8',
    'content-security-policy': WEBSITE_POLICY,
    'x-frame-options': 'SAMEORIGIN',
  })
  if (page === null) setResponseStatus(event, 404)
  return page ?? '<!doctype html><title>Not found</title><p>There is no such page.</p>'
})
