/** Makes an older version the draft again; what runs goes on. */
export default defineRoute(
  'POST /rules/:id/versions/:version',
  ({ workspace, person, params: { id, version }, body: { rev } }) => {
    const { rules } = workspace.store
    const found = rules.get(id) && rules.versions(id).find((one) => one.number === version)
    if (!found) throw notFound(`version ${version} of rule ${id}`)
    if (found.problem !== null) throw new ProblemError({ code: 'versionUnreadable', version, said: found.problem })
    const next = rules.saveDraft(id, found.document, rev, person.id, workspace.clock.nowMs())
    if (next === null) throw new ProblemError({ code: 'ruleChanged', who: 'Someone' })
    workspace.live.tell({ about: 'rules' })
    return { rev: next }
  },
)
