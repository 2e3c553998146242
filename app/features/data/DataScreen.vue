<script setup lang="ts">
import { CODE_PAGES, CODE_PAGE_WORDS, readTextFile, type CodePage, type TextFile } from '#core/formats/text-file'
import { OBJECT_WORDS, OBJECTS } from '#core/records/kinds'
import { sayInstant } from '#core/time/say'
import { send, attempt } from '~/shared/api/api'
import { goTo } from '~/shared/goTo'
import { once } from '~/shared/api/once'
import { useCatalogue } from '~/shared/stores/catalogue'
import AppDialog from '~/shared/dialog/AppDialog.vue'
import DataNav from './DataNav.vue'
import ActivitiesIn from './ActivitiesIn.vue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

useHead({ title: 'Data' })
const store = useCatalogue()
const { data } = await useLiveQuery('/api/v1/imports', { changedBy: ['imports'] })
const { data: kept, refresh: recount } = await useLiveQuery('/api/v1/backups', {
  params: store.may('build') ? {} : null,
})
const copying = ref(false)
const backUp = once(async (): Promise<void> => {
  copying.value = true
  if (await attempt(() => send('POST', '/api/v1/backups'))) await recount()
  copying.value = false
})
const over = ref(false)
const busy = ref(false)
const chooser = useTemplateRef<HTMLInputElement>('chooser')

/** A file whose letters could be read in two ways, and the way that was guessed. */
const doubtful = shallowRef<{ readonly name: string; readonly bytes: Uint8Array; readonly read: TextFile } | null>(null)
const page = ref<CodePage>('windows-1252')
async function take(file: File | undefined): Promise<void> {
  over.value = false
  if (!file) return
  busy.value = true
  const bytes = new Uint8Array(await file.arrayBuffer())
  if (chooser.value) chooser.value.value = ''
  const read = readTextFile(bytes)
  if (read.samples === null) await bring(file.name, read.text)
  else {
    page.value = read.encoding === 'windows-1250' ? 'windows-1250' : 'windows-1252'
    doubtful.value = { name: file.name, bytes, read }
  }
  busy.value = false
}
async function bring(fileName: string, content: string): Promise<void> {
  const made = await attempt(() => send<{ id: number }>('POST', '/api/v1/imports', { fileName, content }))
  if (made) await goTo(`/data/${made.id}`)
}
async function bringChosen(): Promise<void> {
  const one = doubtful.value
  doubtful.value = null
  if (one) await bring(one.name, readTextFile(one.bytes, page.value).text)
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
    <AppDialog v-if="doubtful" title="Which letters are right?" :width="560" @close="doubtful = null">
      <form @submit.prevent="bringChosen">
        <p class="quiet mt-1">
          {{ doubtful.name }} does not say how its letters are stored. The first lines in which it matters:
        </p>
        <fieldset class="mt-2">
          <legend class="sr-only">Letters of the file</legend>
          <label
            v-for="one in CODE_PAGES"
            :key="one"
            class="mt-1.5 flex cursor-pointer items-start gap-2 rounded-[3px] border px-3 py-2"
            :class="page === one ? 'border-violet bg-violet-t' : 'border-hair'"
            ><input
              v-model="page"
              type="radio"
              name="letters"
              :value="one"
              class="mt-1"
              :data-first="page === one || undefined"
            /><span class="min-w-0"
              ><span class="block font-semibold">{{ CODE_PAGE_WORDS[one] }}</span
              ><span class="block break-words whitespace-pre-line" data-sample>{{
                doubtful.read.samples?.[one]
              }}</span></span
            ></label
          >
        </fieldset>
        <p class="mt-3 flex gap-2">
          <button type="submit" class="button main">Import</button
          ><button type="button" class="button" @click="doubtful = null">Cancel</button>
        </p>
      </form>
    </AppDialog>
    <table v-if="data?.imports.length" class="list mt-6" aria-label="Imports">
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
    <Suspense><ActivitiesIn v-if="store.may('build')" /></Suspense>
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
          >A complete copy next to the database. You can go on working.</span
        >
      </div>
      <table v-if="kept?.backups.length" class="list mt-2" aria-label="Backups">
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
