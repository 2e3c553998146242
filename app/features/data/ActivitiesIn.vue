<script setup lang="ts">
import { readTextFile } from '#core/formats/text-file'
import { sayInstant } from '#core/time/say'
import { recordPath } from '~/shared/paths'
import { send, attempt } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

/** What people did, from a file; and what was told last. */
const store = useCatalogue()
interface Told {
  kept: number
  known: number
  unknown: number
  refused: { row: number; text: string }[]
}
const { data, refresh } = await useLiveQuery('/api/v1/activities', { query: { limit: 8 } })
const told = shallowRef<(Told & { name: string }) | null>(null)
const busy = ref(false)
async function take(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const [file] = input.files ?? []
  if (!file) return
  busy.value = true
  const found = await attempt(async () =>
    send<Told>('POST', '/api/v1/activities/files', {
      text: readTextFile(new Uint8Array(await file.arrayBuffer())).text,
    }),
  )
  busy.value = false
  input.value = ''
  if (!found) return
  told.value = { ...found, name: file.name }
  await refresh()
}
</script>

<template>
  <section class="mt-10" aria-labelledby="did-title">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h2 id="did-title">Activity</h2>
      <label class="button cursor-pointer focus-within:outline-2"
        >{{ busy ? 'Reading file…' : 'Import activity…'
        }}<input type="file" accept=".csv,text/csv" class="sr-only" aria-label="CSV file with activity" @change="take"
      /></label>
      <span class="quiet"
        >Columns: kind (<code>{{ store.catalogue.activities.names.join(', ') }}</code
        >), about, data, at, key, and one of email, contact, company, deal. Scores are updated immediately.</span
      >
    </div>
    <div v-if="told" class="mt-2" role="status" data-told>
      <p>
        {{ told.name }}: {{ told.kept }} imported<template v-if="told.known">, {{ told.known }} already known</template
        ><template v-if="told.unknown">, {{ told.unknown }} of people who are no contacts yet</template
        ><template v-if="told.refused.length > 0"
          >, <b class="text-brick">{{ told.refused.length }} rejected</b></template
        >.
      </p>
      <p v-for="one in told.refused.slice(0, 12)" :key="one.row" class="quiet">Row {{ one.row }}: {{ one.text }}</p>
      <p v-if="told.refused.length > 12" class="quiet">and {{ told.refused.length - 12 }} more</p>
    </div>
    <table v-if="data && data.activities.length > 0" class="list mt-2 max-w-[900px]" aria-label="Activity">
      <tbody>
        <tr v-for="one in data.activities" :key="one.id">
          <td class="w-44 whitespace-nowrap">{{ sayInstant(one.atMs, store.catalogue.workspace.zone) }}</td>
          <td class="w-56 truncate">
            <NuxtLink :to="recordPath(one.ref)" class="name-link">{{ one.name }}</NuxtLink>
          </td>
          <td class="w-56">{{ store.catalogue.activities.words(one.kind).did }}</td>
          <td>{{ one.about }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else class="quiet mt-2">No activity yet.</p>
  </section>
</template>
