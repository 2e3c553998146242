<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { recordPath } from '~/shared/paths'
import { useLive } from '~/shared/live/useLive'
import { useKeys } from '~/shared/keys/useKeys'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useNotices } from '~/shared/stores/notices'
import TopBar from '~/features/bar/TopBar.vue'
import NoticeLines from '~/features/bar/NoticeLines.vue'
import FindBox from '~/features/bar/FindBox.vue'
import KeyHelp from '~/features/bar/KeyHelp.vue'

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
const store = useCatalogue()
useLive((message) => {
  if (message.about === 'catalogue')
    void store.load().then(() => {
      if (store.way !== 'in') reloadNuxtApp({ force: true })
    })
  if (message.about === 'run')
    notices.tell({
      tone: 'rule',
      title: `${message.ruleName} · ${message.recordName}`,
      text: message.text,
      to: recordPath(message.ref),
    })
})
</script>

<template>
  <div class="flex h-full flex-col">
    <a href="#main" class="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-paper focus:p-2">To the page</a>
    <TopBar @find="finding = true" @help="helping = true" />
    <main id="main" class="min-h-0 flex-1"><slot /></main>
    <NoticeLines />
    <FindBox v-model:open="finding" />
    <KeyHelp v-model:open="helping" />
  </div>
</template>
