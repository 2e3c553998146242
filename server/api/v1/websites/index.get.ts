import { WEBSITE_PATHS } from '../../../stand-ins/website'

export default defineRoute('GET /websites', ({ workspace }) => ({
  hosts: workspace.store.websites.all(),
  unknown: workspace.store.visitors.count(),
  simulated: workspace.catalogue().workspace.demo ? WEBSITE_PATHS.map((path) => `/website/${path}`) : [],
}))
