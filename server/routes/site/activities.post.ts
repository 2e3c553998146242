import { takeReport, zVisitorReport } from '../../engine/visitor-report'

/** What the script on the firm's pages tells of. */
export default defineFrontDoor(zVisitorReport, (report, event) => {
  takeReport(useWorkspace(), report)
  setResponseStatus(event, 204)
  return null
})
