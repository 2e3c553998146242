<script setup lang="ts">
import { attempt, send } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

/** One's own appointments in the calendar one uses anyway, by an address that nobody guesses. */
const { data, refresh } = await useLiveQuery('/api/v1/account/calendar-feed')
const server = useRequestURL().origin
const copied = ref(false)
const address = computed(() => (data.value?.path ? `${server}${data.value.path}` : null))
const renew = once(async (): Promise<void> => {
  copied.value = false
  if (await attempt(() => send('POST', '/api/v1/account/calendar-feed'))) await refresh()
})
async function remove(): Promise<void> {
  if (await attempt(() => send('DELETE', '/api/v1/account/calendar-feed'))) await refresh()
}
async function copy(): Promise<void> {
  await navigator.clipboard.writeText(address.value ?? '')
  copied.value = true
}
</script>

<template>
  <section aria-labelledby="feed-title">
    <h2 id="feed-title">Calendar feed</h2>
    <p class="quiet mt-1">
      Your appointments in any calendar that can subscribe to an address. Whoever has the address can read them.
    </p>
    <p v-if="address" class="mt-2 flex flex-wrap items-center gap-2">
      <code class="rounded-[3px] bg-paper2 px-2 py-1 text-[13px] break-all" data-feed>{{ address }}</code>
      <button type="button" class="button" @click="copy">{{ copied ? 'Copied' : 'Copy' }}</button>
      <button type="button" class="button" @click="renew">New address</button>
      <button type="button" class="button" @click="remove">Remove</button>
    </p>
    <p v-else class="mt-2"><button type="button" class="button" @click="renew">Create address</button></p>
  </section>
</template>
