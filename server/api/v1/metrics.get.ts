import { gauges, register } from '../../utils/metrics'

/** How it is doing, for Prometheus (text format 0.0.4); a scraper brings a key. */
export default defineRoute('GET /metrics', async ({ event, workspace }) => {
  gauges(workspace)
  setResponseHeader(event, 'content-type', register.contentType)
  return await register.metrics()
})
