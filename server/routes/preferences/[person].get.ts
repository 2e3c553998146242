import { showPreferences } from '../../utils/preferences'

/** What somebody gets. Looking changes nothing: mail programs follow links by themselves. */
export default defineFrontDoor(null, (_, event) => showPreferences(event, false))
