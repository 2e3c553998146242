<script setup lang="ts">
import { count } from '#core/language/counts'
import { readTextFile } from '#core/formats/text-file'
import { sayInstant } from '#core/time/say'
import { attempt, send } from '~/shared/api/api'
import { useLiveQuery, type AnswerOf } from '~/shared/live/useLiveQuery'
import { useCatalogue } from '~/shared/stores/catalogue'

/** Addresses that get nothing: opted out, undeliverable, or never to write to. */
defineProps<{ editable: boolean }>()
const store = useCatalogue()
const { data, refresh } = await useLiveQuery('/api/v1/stopped-addresses', { changedBy: ['sent'] })
type Row = AnswerOf<'/api/v1/stopped-addresses'>['addresses'][number]
const WHY: Record<Row['because'], string> = {
  optedOut: 'opted out',
  never: 'never to write to',
  bounced: 'messages come back',
}
const CHANNEL: Record<Row['channel'], string> = { mail: 'emails', text: 'text messages', any: 'everything' }
const text = ref('')
const told = ref('')
const refused = ref<readonly { row: number; text: string }[]>([])
async function add(given: string): Promise<void> {
  const addresses = given.split(/[\n,;]/).filter((one) => one.trim() !== '')
  if (addresses.length === 0) return
  const done = await attempt(() =>
    send<{ added: number; refused: { row: number; text: string }[] }>('POST', '/api/v1/stopped-addresses', {
      addresses,
    }),
  )
  if (!done) return
  text.value = ''
  told.value = `${count(done.added, 'address')} added.`
  refused.value = done.refused
  await refresh()
}
async function take(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const [file] = input.files ?? []
  if (file) await add(readTextFile(new Uint8Array(await file.arrayBuffer())).text)
  input.value = ''
}
async function free({ channel, address }: Row): Promise<void> {
  if (await attempt(() => send('POST', '/api/v1/stopped-addresses/freed', { channel, address }))) await refresh()
}
/** The list as a file, one address a line, as it can be read in again. */
function exported(): string {
  const lines = (data.value?.addresses ?? []).map(({ address }) => address)
  return `data:text/plain;charset=utf-8,${encodeURIComponent([...new Set(lines)].join('\n'))}`
}
</script>

<template>
  <section class="mt-8" aria-labelledby="stopped-title">
    <h2 id="stopped-title">Addresses that get nothing</h2>
    <form v-if="editable" class="mt-1 max-w-[640px]" @submit.prevent="add(text)">
      <label class="quiet block"
        >Never write to these: addresses, numbers, or whole domains as @acme.example, one per line<textarea
          v-model="text"
          class="entry mt-0.5 w-full"
          rows="2"
        />
      </label>
      <p class="mt-1 flex flex-wrap items-center gap-2">
        <button type="submit" class="button" :disabled="text.trim() === ''">Add</button>
        <label class="button cursor-pointer focus-within:outline-2"
          >Import…<input
            type="file"
            accept=".csv,.txt,text/plain,text/csv"
            class="sr-only"
            aria-label="File with addresses"
            @change="take"
        /></label>
        <a v-if="data && data.addresses.length > 0" class="button" :href="exported()" download="addresses.txt"
          >Export</a
        >
        <span v-if="told" class="quiet" role="status">{{ told }}</span>
      </p>
      <p v-for="one in refused.slice(0, 8)" :key="one.row" class="text-brick">Line {{ one.row }}: {{ one.text }}</p>
    </form>
    <table
      v-if="data && data.addresses.length > 0"
      class="list mt-2 max-w-[900px]"
      aria-label="Addresses that get nothing"
    >
      <tbody>
        <tr v-for="one in data.addresses" :key="`${one.channel} ${one.address}`">
          <td>{{ one.address }}</td>
          <td>{{ CHANNEL[one.channel] }}</td>
          <td>
            {{ WHY[one.because] }}<template v-if="one.how">, {{ one.how }}</template>
          </td>
          <td class="quiet">{{ sayInstant(one.atMs, store.catalogue.workspace.zone) }}</td>
          <td class="text-right">
            <button v-if="editable && one.because !== 'optedOut'" type="button" class="word" @click="free(one)">
              Allow again
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="quiet mt-2">None.</p>
  </section>
</template>
