<script setup lang="ts">
import { count } from '#core/language/counts'
import { send, attempt } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import DataNav from './DataNav.vue'
import SimulatedWebsite from './SimulatedWebsite.vue'

/** What the firm's own website tells of: the script for its pages, and which pages may send. */
useHead({ title: 'Website' })
const store = useCatalogue()
const { data, refresh } = await useLiveQuery('/api/v1/websites', { changedBy: ['records'] })
const server = useRequestURL().origin
const script = computed(() => `<script src="${server}/site.js" defer></${'script'}>`)
const copied = ref(false)
async function copy(): Promise<void> {
  await navigator.clipboard.writeText(script.value)
  copied.value = true
}
const host = ref('')
async function add(): Promise<void> {
  if (!(await attempt(() => send('POST', '/api/v1/websites', { host: host.value.replace(/^https?:\/\/|\/.*$/g, '') }))))
    return
  host.value = ''
  await refresh()
}
async function remove(gone: string): Promise<void> {
  if (await attempt(() => send('DELETE', `/api/v1/websites/${encodeURIComponent(gone)}`))) await refresh()
}
</script>

<template>
  <div class="h-full overflow-auto px-8 pt-4 pb-12 max-[599px]:px-4" tabindex="0">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Website</h1>
      <DataNav current="website" />
    </div>
    <template v-if="data">
      <SimulatedWebsite v-if="data.simulated.length > 0" :pages="data.simulated" class="mt-3" />
      <h2 class="mt-6">Your own pages</h2>
      <p class="quiet mt-1 max-w-[80ch]">
        Put this line on every page. It reports page visits, and forms marked with <code>data-report="Name"</code>. A
        visitor becomes known by the email in a form, or by a personal link. Nothing is sent from browsers that ask not
        to be followed.
      </p>
      <p class="mt-2 flex flex-wrap items-center gap-3">
        <code class="rounded-[3px] bg-paper2 px-2 py-1 text-[13px] break-all" data-script>{{ script }}</code>
        <button type="button" class="button" @click="copy">{{ copied ? 'Copied' : 'Copy' }}</button>
      </p>
      <p class="quiet mt-2 max-w-[80ch]">
        To ask for consent first, add <code>data-consent="wait"</code> and call <code>skyLever.consent(true)</code> once
        the visitor agrees; <code>skyLever.consent(false)</code> forgets them.
      </p>
      <h3 class="mt-4">Websites that may send</h3>
      <p v-if="data.hosts.length === 0" class="quiet">None yet.</p>
      <ul v-else>
        <li v-for="one in data.hosts" :key="one.host" class="flex items-baseline gap-3">
          <span>{{ one.host }}</span>
          <button
            v-if="store.may('build')"
            type="button"
            class="quiet"
            :aria-label="`Remove ${one.host}`"
            @click="remove(one.host)"
          >
            Remove
          </button>
        </li>
      </ul>
      <form v-if="store.may('build')" class="mt-1 flex flex-wrap gap-2" @submit.prevent="add">
        <input v-model="host" class="entry" aria-label="Host" placeholder="www.larkmoor.example" required />
        <button type="submit" class="button">Add website</button>
      </form>
      <p class="mt-4" data-unknown>
        {{
          data.unknown.activities === 0
            ? 'Everyone who was seen is known.'
            : `${count(data.unknown.activities, 'activity')} of ${count(data.unknown.visitors, 'visitor')} who ${data.unknown.visitors === 1 ? 'is' : 'are'} not known yet.`
        }}
      </p>
    </template>
  </div>
</template>
