<script setup lang="ts">
import { attempt, send } from '~/shared/api/api'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import { useCatalogue } from '~/shared/stores/catalogue'
import KeyTable from './KeyTable.vue'

/** The keys of everybody else: whoever builds rules can revoke them. */
const store = useCatalogue()
const { data, refresh } = await useLiveQuery('/api/v1/keys')
const others = computed(() => (data.value?.keys ?? []).filter((key) => key.personId !== store.me?.id))

async function revoke(id: number): Promise<void> {
  if (await attempt(() => send('DELETE', `/api/v1/keys/${id}`))) await refresh()
}
</script>

<template>
  <section aria-labelledby="all-keys-title">
    <h2 id="all-keys-title">API keys of other people</h2>
    <KeyTable v-if="others.length" class="mt-3" :keys="others" @revoke="revoke" />
    <p v-else class="quiet mt-1">No one else has an API key.</p>
  </section>
</template>
