<script setup lang="ts">
import { AREA_WORDS, AREAS, type Area } from '#core/access/areas'
import { attempt, send } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import KeyTable from './KeyTable.vue'

/** One's own keys for the API: made with what they may do and for how long, shown once, and revoked. */
const { data, refresh } = await useLiveQuery('/api/v1/account/tokens')
const DAYS = [
  [30, '30 days'],
  [90, '90 days'],
  [365, '1 year'],
  [null, 'No expiry'],
] as const
const blank = () => ({ name: '', readOnly: false, areas: [...AREAS] as Area[], days: 90 as number | null })
const given = reactive(blank())
const shown = ref<string | null>(null)

const make = once(async (): Promise<void> => {
  const { name, readOnly, areas, days } = given
  const made = await attempt(() =>
    send<{ token: string }>('POST', '/api/v1/account/tokens', {
      name,
      readOnly,
      areas: areas.length === AREAS.length ? null : areas,
      days,
    }),
  )
  if (!made) return
  shown.value = made.token
  Object.assign(given, blank())
  await refresh()
})
async function revoke(id: number): Promise<void> {
  if (await attempt(() => send('DELETE', `/api/v1/account/tokens/${id}`))) await refresh()
}
</script>

<template>
  <section aria-labelledby="keys-title">
    <h2 id="keys-title">API keys</h2>
    <p class="quiet mt-1">
      A program with a key can do what you can do, within its access. Send it as
      <code>Authorization: Bearer …</code>; <NuxtLink to="/reference" class="word">API reference</NuxtLink>.
    </p>
    <p v-if="shown" class="mt-3 rounded-[3px] bg-saffron-t px-3 py-2" role="status">
      <b class="font-semibold break-all">{{ shown }}</b><br /><span class="text-[13px]"
        >Copy it now. It won’t be shown again.</span
      >
    </p>
    <form class="mt-3" @submit.prevent="make">
      <div class="flex flex-wrap items-end gap-3">
        <label class="quiet"
          >Name<br /><input
            v-model="given.name"
            class="entry w-72"
            required
            maxlength="100"
            placeholder="For example “Website form”"
        /></label>
        <label class="quiet"
          >Access<br /><select v-model="given.readOnly" class="entry">
            <option :value="false">Read and write</option>
            <option :value="true">Read only</option>
          </select></label
        >
        <label class="quiet"
          >Expires after<br /><select v-model="given.days" class="entry">
            <option v-for="[days, words] in DAYS" :key="words" :value="days">{{ words }}</option>
          </select></label
        >
        <button type="submit" class="button" :disabled="given.areas.length === 0">Create API key</button>
      </div>
      <fieldset class="mt-2 flex flex-wrap gap-x-4 gap-y-1">
        <legend class="quiet float-left mr-3">May be used for</legend>
        <label v-for="area in AREAS" :key="area" class="whitespace-nowrap"
          ><input v-model="given.areas" type="checkbox" :value="area" /> {{ AREA_WORDS[area] }}</label
        >
      </fieldset>
    </form>
    <KeyTable v-if="data?.tokens.length" class="mt-4" :keys="data.tokens" @revoke="revoke" />
    <p v-else class="quiet mt-3">You have no API keys.</p>
  </section>
</template>
