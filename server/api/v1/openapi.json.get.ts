import { openApi } from '../../contract/open-api'

let made: ReturnType<typeof openApi> | null = null

/** The description of this API. Made once: the contracts do not change while it runs. */
export default defineRoute('GET /openapi.json', () => (made ??= openApi()))
