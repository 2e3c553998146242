<script setup lang="ts">
import { attempt, send } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import AppDialog from '~/shared/dialog/AppDialog.vue'

/** A service outside: its name, its address, and a header with a secret where it wants one. */
const props = defineProps<{
  of: {
    readonly id: number
    readonly name: string
    readonly address: string
    readonly headers: readonly string[]
  } | null
}>()
const emit = defineEmits<{ close: []; kept: [] }>()
const written = reactive({
  name: props.of?.name ?? '',
  address: props.of?.address ?? '',
  header: props.of?.headers[0] ?? '',
  value: '',
  newSecret: false,
})
const secret = ref<string | null>(null)
const keep = once(async (): Promise<void> => {
  const { name, address, header, value, newSecret } = written
  const headers = header.trim() === '' ? {} : { [header.trim()]: value }
  // A value that is left empty is the one that is kept: it is never shown.
  const unchanged = props.of !== null && value === '' && header === (props.of.headers[0] ?? '')
  const done = await attempt(() =>
    props.of === null
      ? send<{ secret: string | null }>('POST', '/api/v1/connections', { name, address, headers })
      : send<{ secret: string | null }>('PATCH', `/api/v1/connections/${props.of.id}`, {
          name,
          address,
          ...(unchanged ? {} : { headers }),
          ...(newSecret ? { newSecret: true } : {}),
        }),
  )
  if (!done) return
  if (done.secret === null) emit('kept')
  else secret.value = done.secret
})
</script>

<template>
  <AppDialog
    :title="of ? `Connection “${of.name}”` : 'New connection'"
    :width="560"
    @close="secret ? emit('kept') : emit('close')"
  >
    <template v-if="secret">
      <p class="mt-3">The receiver checks signatures with this secret. It is shown this once:</p>
      <p class="mt-2 rounded-[3px] bg-paper2 px-2 py-1 font-mono text-[13px] break-all" data-secret>{{ secret }}</p>
      <p class="mt-3"><button type="button" class="button main" data-first @click="emit('kept')">Done</button></p>
    </template>
    <form v-else class="label-grid mt-3" @submit.prevent="keep">
      <label for="connection-name">Name</label>
      <input
        id="connection-name"
        v-model.trim="written.name"
        class="entry"
        maxlength="100"
        required
        data-first
        placeholder="Order system"
      />
      <label for="connection-address">Address</label>
      <input
        id="connection-address"
        v-model.trim="written.address"
        type="url"
        class="entry"
        placeholder="empty: the simulated receiver"
      />
      <label for="connection-header">Header</label>
      <input
        id="connection-header"
        v-model.trim="written.header"
        class="entry"
        placeholder="Authorization, if it wants one"
      />
      <template v-if="written.header">
        <label for="connection-value">Its value</label>
        <input
          id="connection-value"
          v-model="written.value"
          type="password"
          class="entry"
          autocomplete="new-password"
          :placeholder="of ? 'unchanged' : ''"
        />
      </template>
      <label v-if="of" class="col-span-2 flex items-baseline gap-2"
        ><input v-model="written.newSecret" type="checkbox" />Make a new secret for signatures</label
      >
      <p class="quiet col-span-2">Secrets are kept sealed and never shown again.</p>
      <p class="col-span-2 flex gap-2">
        <button type="submit" class="button main">Save</button>
        <button type="button" class="button" @click="emit('close')">Cancel</button>
      </p>
    </form>
  </AppDialog>
</template>
