import { ACTS } from '../../../../../core/access/acts'
import { PROBLEMS } from '../../../../problems'
import { USUAL_TELLING } from '../../../../../core/telling/telling'

export default defineRoute('GET /account/notifications', ({ workspace, person }) => {
  const { tellings } = workspace.store
  return {
    ...(tellings.of(person.id)?.telling ?? USUAL_TELLING),
    hasChat: tellings.chat(person.id) !== null,
    // Those who can mend them are told of problems.
    kinds: ACTS[person.role].includes('build') ? PROBLEMS.map(({ kind, title }) => ({ kind, title })) : [],
  }
})
