<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { recordPath } from '~/shared/paths'
import { useLive } from '~/shared/live/useLive'
import { useKeys } from '~/shared/keys/useKeys'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useNotices } from '~/shared/stores/notices'
import { useKeptFocus } from '~/shared/keys/useKeptFocus'
import { useRegions } from '~/shared/keys/useRegions'
import { useSpoken } from '~/shared/keys/useSpoken'
import TopBar from '~/features/bar/TopBar.vue'
import NoticeLines from '~/features/bar/NoticeLines.vue'
import { onceReady } from '~/shared/onceReady'

const FindBox = onceReady(() => import('~/features/bar/FindBox.vue'))
const KeyHelp = onceReady(() => import('~/features/bar/KeyHelp.vue'))

const finding = ref(false)
const helping = ref(false)
const notices = useNotices()

useKeys({
  '?': () => {
    helping.value = true
  },
})
if (import.meta.client) {
  useEventListener(window, 'keydown', (event) => {
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
      event.preventDefault()
      finding.value = true
    }
  })
}
useKeptFocus()
useRegions()
/** A new page begins at its heading, and is told to those who hear it. */
const route = useRoute()
const { say, spoken } = useSpoken()
useNuxtApp().hook('page:finish', () => {
  if (route.path === shownPath) return
  shownPath = route.path
  requestAnimationFrame(() => {
    const heading = document.querySelector<HTMLElement>('main h1')
    if (document.activeElement !== document.body || !heading) return
    heading.tabIndex = -1
    heading.focus({ preventScroll: true })
    say(heading.textContent?.trim() ?? '')
  })
})
let shownPath = route.path
const store = useCatalogue()
useLive((message) => {
  if (message.about === 'catalogue')
    void store.load().then(() => {
      if (store.way !== 'in') reloadNuxtApp({ force: true })
    })
  if (message.about === 'run')
    notices.tell({
      tone: 'rule',
      title: `Rule “${message.ruleName}” · ${message.recordName}`,
      text: message.text,
      to: message.ref.object === 'none' ? '/journal' : recordPath(message.ref),
    })
})
</script>

<template>
  <div class="flex h-full flex-col">
    <a href="#main" class="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-paper focus:p-2"
      >Skip to content</a
    >
    <TopBar @find="finding = true" @help="helping = true" />
    <main id="main" class="min-h-0 flex-1"><slot /></main>
    <NoticeLines />
    <p class="sr-only" role="status" data-spoken>{{ spoken }}</p>
    <FindBox v-if="finding" v-model:open="finding" />
    <KeyHelp v-if="helping" v-model:open="helping" />
  </div>
</template>
