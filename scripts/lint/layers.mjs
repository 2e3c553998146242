/**
 * Who may import whom: the rooms of docs/architecture.md, from the innermost to the outermost. A room may import
 * itself and what stands before it, and nothing behind it. Tests may look at a room through another one.
 */
const SERVER = [
  ['server/db'],
  ['server/store'],
  ['server/stand-ins'],
  ['server/engine'],
  ['server/problems'],
  ['server/auth', 'server/views', 'server/pages'],
  ['server/worker'],
  ['server/contract', 'server/utils'],
  ['server/api', 'server/plugins', 'server/routes', 'server/middleware'],
]
const OUTSIDE = ['bench', 'crash', 'demo', 'e2e', 'cases']

const zone = (target, from, message, except = []) => ({
  target: `./${target}`,
  from: `./${from}`,
  except: except.map((one) => `./${one}`),
  message,
})
const zonesTo = (target, rooms, message) => rooms.map((room) => zone(target, room, message))

const serverZones = SERVER.flatMap((rooms, at) => {
  const behind = SERVER.slice(at + 1).flat()
  return rooms.flatMap((room) => zonesTo(room, behind, `${room} stands below it: see docs/architecture.md`))
})

/** The zones of `import-x/no-restricted-paths`; `areas` are the folders in `app/features`. */
export const zones = (areas) => [
  zone('core/language', 'core', 'core/language imports nothing else of the core: everything may import it', [
    'language',
  ]),
  ...zonesTo('core', ['app', 'server', ...OUTSIDE], 'the core knows nobody outside of itself'),
  ...zonesTo('server', ['app', ...OUTSIDE], 'the server knows neither the interface nor who uses it'),
  ...serverZones,
  ...zonesTo('app', OUTSIDE, 'the interface knows the core, and the types of the server'),
  ...zonesTo('app/shared', ['app/features', 'app/pages', 'app/layouts'], 'what all areas share knows none of them'),
  ...areas.flatMap((area) => [
    zone(`app/features/${area}`, 'app/features', 'an area of the interface knows no other one', [area]),
    ...zonesTo(`app/features/${area}`, ['app/pages', 'app/layouts'], 'an area does not know the pages it is on'),
  ]),
]
