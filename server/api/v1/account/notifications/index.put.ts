import { nextTold } from '../../../../engine/tell-outside'

export default defineRoute('PUT /account/notifications', ({ workspace, person, body: { chat, ...telling } }) => {
  const { store, db, clock } = workspace
  if (telling.by === 'chat' && chat === undefined && store.tellings.chat(person.id) === null)
    throw new ProblemError({ code: 'chatAddressMissing' })
  db.inTurn(() =>
    db.atomically(() => {
      if (chat !== undefined) store.tellings.setChat(person.id, chat)
      store.tellings.set(person.id, telling, nextTold(workspace, person.id, telling, clock.nowMs()), clock.nowMs())
    }),
  )
  return { ok: true as const }
})
