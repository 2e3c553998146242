<script setup lang="ts">
import { ROLE_WORDS } from '#core/fields/field'
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { sayTime, sayWeekday } from '#core/time/say'
import { dateAt } from '#core/time/dates'
import { actOfPath } from '~/shared/paths'
import { send, attempt } from '~/shared/api/api'
import { useLive } from '~/shared/live/useLive'
import { useCatalogue } from '~/shared/stores/catalogue'
import SkyMark from './SkyMark.vue'
import NoticeBell from './NoticeBell.vue'
import ClockMenu from './ClockMenu.vue'

const emit = defineEmits<{ find: []; help: [] }>()
const store = useCatalogue()
const route = useRoute()
const theme = useCookie<'auto' | 'light' | 'dark'>('sky-lever-theme', {
  default: () => 'auto',
  maxAge: 31_536_000,
  sameSite: 'lax',
})

const groups = computed(() => [
  {
    name: 'Work',
    links: [
      { to: '/day-sheet', label: 'Day sheet' },
      { to: '/calendar', label: 'Calendar' },
      { to: '/boards', label: 'Boards' },
      { to: '/records', label: 'Records', also: ['/linking'] },
    ],
  },
  ...(store.may('readRules')
    ? [
        {
          name: 'Build',
          links: [
            { to: '/rules', label: 'Rules', also: ['/rehearsal', '/cases', '/preflight'] },
            {
              to: '/fields',
              label: 'Fields',
              also: ['/calculated-fields', '/scorecards', '/synonyms', '/pipelines', '/activity-kinds'],
            },
            { to: '/messages/templates', label: 'Messages', also: ['/messages'] },
          ],
        },
        {
          name: 'Watch',
          links: [
            { to: '/overview', label: 'Overview', also: ['/problems', '/suggestions', '/team'] },
            { to: '/ahead', label: 'Ahead' },
            { to: '/journal', label: 'Journal' },
            { to: '/results', label: 'Results' },
          ],
        },
        {
          name: 'Set up',
          links: [
            { to: '/people', label: 'People', also: ['/territories', '/hours', '/booking'] },
            { to: '/data', label: 'Data' },
          ],
        },
      ]
    : []),
])

const isAt = (link: { readonly to: string; readonly also?: readonly string[] }): boolean =>
  [link.to, ...(link.also ?? [])].some((path) => route.path.startsWith(path))

useLive((message) => {
  if (message.about === 'clock') void store.load()
})
// The page is made on the server at one moment and shown at another: the clock starts from the server's.
const nowMs = ref(store.facts?.nowMs ?? 0)
onMounted(() => {
  let ahead = (store.facts?.nowMs ?? 0) - performance.now()
  const timer = setInterval(() => {
    nowMs.value = Math.round(ahead + performance.now())
  }, 10_000)
  // A clock that was turned goes on from where it stands now, and today is another day.
  watch(
    () => store.facts?.nowMs,
    (now) => {
      if (now === undefined) return
      ahead = now - performance.now()
      nowMs.value = now
    },
  )
  onBeforeUnmount(() => clearInterval(timer))
})
const zone = computed(() => store.catalogue.workspace.zone)
const clock = computed(() => `${sayWeekday(dateAt(nowMs.value, zone.value))}, ${sayTime(nowMs.value, zone.value)}`)
const place = computed(() => zone.value.split('/').at(-1)?.replaceAll('_', ' '))
/** On a narrow screen the places fold behind one button. */
const unfolded = ref(false)
const fold = useTemplateRef<HTMLButtonElement>('fold')
watch(
  () => route.path,
  () => (unfolded.value = false),
)
function foldAgain(): void {
  unfolded.value = false
  fold.value?.focus()
}
const initials = computed(() =>
  (store.me?.name ?? '')
    .split(' ')
    .map((part) => part[0])
    .join(''),
)
const nextTheme = computed(() => (({ auto: 'light', light: 'dark', dark: 'auto' }) as const)[theme.value])

async function become(personId: string): Promise<void> {
  if (!(await attempt(() => send('POST', '/api/v1/session/demo', { personId })))) return
  await store.load()
  // A page that the other person may not see is left; every other one is read anew with their eyes.
  if (!store.may(actOfPath(route.path))) await navigateTo('/day-sheet')
  else await refreshNuxtData()
}
async function leave(): Promise<void> {
  if (await attempt(() => send('DELETE', '/api/v1/session'))) reloadNuxtApp({ path: '/sign-in', force: true })
}
</script>

<template>
  <header
    class="relative flex min-h-[46px] flex-none items-center gap-5 border-b border-hair px-5 text-[13.5px] whitespace-nowrap max-[1340px]:gap-3.5 max-[1060px]:gap-1.5 max-[499px]:gap-2 max-[499px]:px-3"
  >
    <NuxtLink to="/" class="flex items-center gap-2 font-serif text-[19px] font-semibold tracking-tight">
      <SkyMark />
      <span class="max-[1340px]:sr-only">Sky Lever</span>
    </NuxtLink>
    <button
      ref="fold"
      type="button"
      class="hidden rounded-[3px] px-1.5 py-1 font-semibold hover:bg-paper2 max-[1060px]:block"
      :aria-expanded="unfolded"
      aria-controls="main-navigation"
      @click="unfolded = !unfolded"
    >
      Menu
    </button>
    <nav
      id="main-navigation"
      aria-label="Main navigation"
      class="flex min-w-0 flex-1 flex-wrap items-baseline gap-x-5 max-[1340px]:gap-x-3"
      :class="unfolded ? 'folded pop' : 'max-[1060px]:hidden'"
      @keydown.escape="foldAgain"
    >
      <div v-for="group in groups" :key="group.name" class="flex flex-wrap items-baseline gap-1">
        <span class="mr-1.5 font-serif text-[14px] text-ink2 italic max-[1700px]:sr-only">{{ group.name }}</span>
        <NuxtLink
          v-for="link in group.links"
          :key="link.to"
          :to="link.to"
          class="rounded-[3px] px-1.5 py-1"
          :class="isAt(link) ? 'bg-ink text-paper' : 'hover:bg-paper2'"
          :aria-current="isAt(link) ? 'page' : undefined"
          >{{ link.label }}</NuxtLink
        >
      </div>
    </nav>
    <div class="ml-auto flex flex-none items-center gap-3.5 text-[13px] text-ink2 max-[499px]:gap-2">
      <button type="button" class="rounded-[3px] px-1 py-0.5 hover:bg-paper2" @click="emit('find')">
        Search <kbd class="max-[1340px]:hidden">Ctrl K</kbd>
      </button>
      <button
        type="button"
        class="rounded-[3px] px-1 py-0.5 hover:bg-paper2 max-[499px]:hidden"
        aria-label="Keyboard shortcuts"
        @click="emit('help')"
      >
        <kbd>?</kbd>
      </button>
      <Suspense><NoticeBell /></Suspense>
      <ClockMenu v-if="store.catalogue.workspace.demo" :now-ms="nowMs" :said="clock" :place="place ?? ''" />
      <time v-else class="font-semibold text-saffron" :title="`Workspace time (${zone})`"
        >{{ clock }} <span class="font-normal max-[1340px]:hidden">{{ place }}</span></time
      >
      <Menu as="div" class="relative">
        <MenuButton
          class="grid h-[26px] w-[26px] place-items-center rounded-full bg-moss-t text-[11px] font-bold text-moss"
          :aria-label="`Account menu: ${store.me?.name}`"
          >{{ initials }}</MenuButton
        >
        <MenuItems class="pop absolute right-0 z-40 mt-1 w-72 p-2 text-ink focus:outline-none">
          <p class="quiet px-2 py-1">{{ store.me?.name }} · {{ store.me?.title }}</p>
          <template v-if="store.catalogue.workspace.demo">
            <p class="px-2 pt-2 pb-1 font-serif text-[14px] text-ink2 italic">Demo: switch person</p>
            <MenuItem v-for="person in store.catalogue.people" :key="person.id" v-slot="{ active }">
              <button
                type="button"
                class="flex w-full justify-between gap-3 rounded-[3px] px-2 py-1 text-left"
                :class="active && 'bg-violet-t'"
                @click="become(person.id)"
              >
                <span :class="person.id === store.me?.id && 'font-semibold'">{{ person.name }}</span><span
                  class="quiet"
                  >{{ person.id === store.me?.id ? 'you' : ROLE_WORDS[person.role] }}</span
                >
              </button>
            </MenuItem>
          </template>
          <MenuItem v-slot="{ active }">
            <button
              type="button"
              class="mt-1 flex w-full justify-between rounded-[3px] border-t border-hair px-2 py-1.5 text-left"
              :class="active && 'bg-violet-t'"
              @click="theme = nextTheme"
            >
              <span>Theme</span><span class="quiet">{{ theme === 'auto' ? 'System' : theme }}</span>
            </button>
          </MenuItem>
          <MenuItem v-slot="{ active }"
            ><NuxtLink to="/account" class="block rounded-[3px] px-2 py-1.5" :class="active && 'bg-violet-t'"
              >Account and API keys</NuxtLink
            ></MenuItem
          >
          <MenuItem v-slot="{ active }"
            ><button
              type="button"
              class="w-full rounded-[3px] px-2 py-1.5 text-left"
              :class="active && 'bg-violet-t'"
              @click="leave"
            >
              Sign out
            </button></MenuItem
          >
        </MenuItems>
      </Menu>
    </div>
  </header>
</template>
