export default defineRoute('POST /notifications/read', ({ workspace, person, body: { ids } }) => {
  const read = workspace.store.notices.read(person.id, ids, workspace.clock.nowMs())
  if (read > 0) workspace.live.tell({ about: 'notices', people: [person.id] })
  return { read }
})
