import { nextDue } from '../../../../core/engine/clockwork'

export default defineRoute('GET /clock', ({ workspace }) => ({
  nowMs: workspace.clock.nowMs(),
  aheadMs: workspace.catalogue().workspace.demo ? workspace.store.catalogue.clockAhead() : 0,
  zone: workspace.catalogue().workspace.zone,
  nextMs: nextDue(workspace.world, false),
  demo: workspace.catalogue().workspace.demo,
}))
