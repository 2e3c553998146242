<script setup lang="ts">
import { OBJECT_WORDS, OBJECTS } from '#core/records/kinds'
import { sayInstant } from '#core/time/say'
import { send, attempt } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'
import DataNav from './DataNav.vue'
import HappeningsIn from './HappeningsIn.vue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

useHead({ title: 'Data' })
const store = useCatalogue()
const { data } = await useLiveQuery('/api/v1/imports', { changedBy: ['imports'] })
const { data: kept, refresh: recount } = await useLiveQuery('/api/v1/backups', {
  params: store.may('build') ? {} : null,
})
const copying = ref(false)
async function backUp(): Promise<void> {
  copying.value = true
  if (await attempt(() => send('POST', '/api/v1/backups'))) await recount()
  copying.value = false
}
const over = ref(false)
const busy = ref(false)
const chooser = useTemplateRef<HTMLInputElement>('chooser')

/** Files from spreadsheets are UTF-8 or the Windows code page of western Europe; what is not the one is the other. */
function decode(bytes: ArrayBuffer): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return new TextDecoder('windows-1252').decode(bytes)
  }
}
async function take(file: File | undefined): Promise<void> {
  over.value = false
  if (!file) return
  busy.value = true
  const content = decode(await file.arrayBuffer())
  const made = await attempt(() => send<{ id: number }>('POST', '/api/v1/imports', { fileName: file.name, content }))
  busy.value = false
  if (chooser.value) chooser.value.value = ''
  if (made) await navigateTo(`/data/${made.id}`)
}
</script>

<template>
  <div class="relative h-full overflow-auto px-8 pt-4 pb-12" tabindex="0">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Data</h1>
      <DataNav current="files" />
    </div>
    <label
      v-if="store.may('build')"
      class="mt-4 block rounded-[4px] border-2 border-dashed px-8 py-9 text-center"
      :class="over ? 'border-violet bg-violet-t' : 'border-hair'"
      @dragover.prevent="over = true"
      @dragleave="over = false"
      @drop.prevent="take($event.dataTransfer?.files[0])"
    >
      <span class="block font-serif text-[20px]">{{
        busy ? 'Reading file…' : 'Drop a CSV file here, or choose one'
      }}</span>
      <span class="quiet mt-1 mb-3 block"
        >Deals, contacts or companies, with any column names. You will see a preview before anything is saved.</span
      >
      <!-- The browser's own file box cannot be drawn like ours: it stays for the keyboard and is shown as a button. -->
      <span
        class="button relative inline-block focus-within:outline-2 focus-within:outline-offset-2 focus-within:outline-violet"
        >Choose file<input
          ref="chooser"
          class="absolute inset-0 cursor-pointer opacity-0"
          type="file"
          accept=".csv,.txt,.tsv,text/csv"
          aria-label="Choose CSV file"
          @change="take(($event.target as HTMLInputElement).files?.[0])"
      /></span>
    </label>
    <p v-else class="mt-4">Only specialists can import. You can see past imports.</p>
    <table v-if="data?.imports.length" class="ledger mt-6">
      <thead>
        <tr>
          <th>File</th>
          <th>Records</th>
          <th>Imported by</th>
          <th>Time</th>
          <th>Result</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in data.imports" :key="one.id">
          <td>
            <NuxtLink :to="`/data/${one.id}`" class="name-link font-serif text-[16px]">{{ one.fileName }}</NuxtLink>
          </td>
          <td>{{ OBJECT_WORDS[one.object].Many }}</td>
          <td>{{ store.personName(one.personId) }}</td>
          <td>{{ sayInstant(one.createdAt, store.catalogue.workspace.zone) }}</td>
          <td>
            {{
              one.state === 'ready'
                ? 'Not imported yet'
                : one.state === 'running'
                  ? 'Running'
                  : one.state === 'stopped'
                    ? 'Stopped'
                    : `${one.counts?.new} new, ${one.counts?.changed} changed, ${one.counts?.refused} rejected`
            }}
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="quiet mt-6">No imports yet.</p>
    <Suspense><HappeningsIn v-if="store.may('build')" /></Suspense>
    <section v-if="store.may('build')" class="mt-10" aria-labelledby="out-title">
      <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h2 id="out-title">Export</h2>
        <a v-for="object in OBJECTS" :key="object" :href="`/api/v1/exports/${object}`" download class="word"
          >All {{ OBJECT_WORDS[object].many }} (CSV)</a
        ><span class="quiet">Importing the same file again changes only what you edited.</span>
      </div>
    </section>
    <section v-if="store.may('build')" class="mt-10" aria-labelledby="backups-title">
      <div class="flex items-baseline gap-4">
        <h2 id="backups-title">Backups</h2>
        <button type="button" class="button" :disabled="copying" data-backup @click="backUp">
          {{ copying ? 'Creating backup…' : 'Create backup' }}</button><span class="quiet"
          >A complete copy next to the database. Work can go on meanwhile.</span
        >
      </div>
      <table v-if="kept?.backups.length" class="ledger mt-2">
        <thead>
          <tr>
            <th>File</th>
            <th>Created</th>
            <th class="num">Size</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in kept.backups" :key="one.name">
            <td>{{ one.name }}</td>
            <td>{{ sayInstant(one.atMs, store.catalogue.workspace.zone) }}</td>
            <td class="num">{{ (one.bytes / 1e6).toFixed(1) }} MB</td>
          </tr>
        </tbody>
      </table>
    </section>
  </div>
</template>
