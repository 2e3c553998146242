<script setup lang="ts">
import { count, figure } from '#core/language/counts'
import { RETENTION, sayBytes, sayKeeping, type RetentionKind } from '#core/records/retention'
import { dateAt } from '#core/time/dates'
import { sayDate } from '#core/time/say'
import { attempt, read, send } from '~/shared/api/api'
import AppDialog from '~/shared/dialog/AppDialog.vue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import { useCatalogue } from '~/shared/stores/catalogue'
import DataNav from './DataNav.vue'

/** How much there is of what piles up, and how long it stays. */
useHead({ title: 'Storage' })
const store = useCatalogue()
const editable = computed(() => store.may('build'))
const { data, refresh } = await useLiveQuery('/api/v1/storage', { changedBy: ['storage'] })
const day = (atMs: number): string => sayDate(dateAt(atMs, store.catalogue.workspace.zone))
const OFFERED = [7, 30, 90, 180, 365, 730, 1825, 3650] as const
const offered = (kind: RetentionKind, days: number | null): readonly (number | null)[] =>
  [...new Set([...OFFERED.filter((one) => one >= RETENTION[kind].least), ...(days === null ? [] : [days])])].sort(
    (a, b) => a - b,
  )

/** A shorter time that waits for a yes, with what it deletes. */
const asked = ref<{ kind: RetentionKind; days: number; count: number } | null>(null)
async function choose(kind: RetentionKind, now: number | null, select: HTMLSelectElement): Promise<void> {
  const days = select.value === '' ? null : Number(select.value)
  if (days !== null && (now === null || days < now)) {
    const found = await attempt(() => read<{ count: number }>(`/api/v1/storage/${kind}/older?days=${days}`))
    // Until it is said, the list shows what holds.
    select.value = String(now ?? '')
    if (!found) return
    if (found.count > 0) {
      asked.value = { kind, days, count: found.count }
      return
    }
  }
  await keep(kind, days)
}
async function keep(kind: RetentionKind, days: number | null): Promise<void> {
  asked.value = null
  if (await attempt(() => send('PUT', `/api/v1/storage/${kind}`, { days }))) await refresh()
}
</script>

<template>
  <div class="h-full overflow-auto px-8 pt-4 pb-12" tabindex="0">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Storage</h1>
      <DataNav current="storage" />
    </div>
    <p v-if="data" class="quiet mt-1">
      The database takes {{ sayBytes(data.bytes) }}, of which {{ sayBytes(data.freeBytes) }} are free for new data.
      Older data is deleted once a day, in the background.
    </p>
    <table v-if="data" class="list mt-4" aria-label="What is stored, and how long">
      <thead>
        <tr>
          <th>What</th>
          <th class="num">Entries</th>
          <th class="num">Size</th>
          <th>Oldest</th>
          <th>Keep for</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in data.kinds" :key="one.kind">
          <td class="whitespace-normal">
            <b class="font-serif text-[16px] font-normal">{{ RETENTION[one.kind].title }}</b>
            <span class="quiet block max-w-[76ch]">{{ RETENTION[one.kind].about }}</span>
          </td>
          <td class="num">{{ figure(one.count) }}</td>
          <td class="num">{{ sayBytes(one.bytes) }}</td>
          <td>
            {{ one.oldestMs === null ? '–' : day(one.oldestMs) }}
            <span v-if="one.cutMs !== null" class="quiet block">deleted before {{ day(one.cutMs) }}</span>
          </td>
          <td>
            <select
              v-if="editable"
              class="entry"
              :aria-label="`Keep ${RETENTION[one.kind].title} for`"
              :value="one.days ?? ''"
              @change="choose(one.kind, one.days, $event.target as HTMLSelectElement)"
            >
              <option v-for="days in offered(one.kind, one.days)" :key="days ?? ''" :value="days">
                {{ sayKeeping(days) }}
              </option>
              <option value="">{{ sayKeeping(null) }}</option></select
            ><template v-else>{{ sayKeeping(one.days) }}</template>
          </td>
        </tr>
      </tbody>
    </table>
    <AppDialog
      v-if="asked"
      :title="`Keep ${RETENTION[asked.kind].title} for ${sayKeeping(asked.days)}?`"
      role="alertdialog"
      @close="asked = null"
    >
      <p class="mt-2">{{ count(asked.count, 'entry') }} will be deleted in the background. This can’t be undone.</p>
      <p class="mt-4 flex gap-2">
        <button type="button" class="button main" @click="keep(asked.kind, asked.days)">Save and delete</button>
        <button type="button" class="button" data-first @click="asked = null">Cancel</button>
      </p>
    </AppDialog>
  </div>
</template>
