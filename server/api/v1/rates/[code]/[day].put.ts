import { setRate } from '../../../../engine/rates'

export default defineRoute(
  'PUT /rates/:code/:day',
  ({ workspace, person, params: { code, day }, body: { perOwn } }) => {
    setRate(workspace, { code, day, perOwn }, person.id)
    return { ok: true }
  },
)
