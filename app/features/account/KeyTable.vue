<script setup lang="ts">
import type { Area } from '#core/access/areas'
import { sayInstant } from '#core/time/say'
import { useCatalogue } from '~/shared/stores/catalogue'

/** Keys for the API, one's own or those of everybody. */
export interface KeyShown {
  readonly id: number
  readonly name: string
  readonly start: string
  readonly createdAt: number
  readonly lastUsedAt: number | null
  readonly readOnly: boolean
  readonly areas: readonly Area[] | null
  readonly expiresAt: number | null
  /** Whose it is, where that is not plain. */
  readonly personId?: string
}
defineProps<{ keys: readonly KeyShown[] }>()
const emit = defineEmits<{ revoke: [id: number] }>()
const store = useCatalogue()
const when = (atMs: number | null): string =>
  atMs === null ? 'never' : sayInstant(atMs, store.catalogue.workspace.zone)
const sayScope = ({ readOnly, areas }: KeyShown): string =>
  `${readOnly ? 'Read only' : 'Read and write'}${areas ? `: ${areas.join(', ')}` : ''}`
const expired = ({ expiresAt }: KeyShown): boolean => expiresAt !== null && expiresAt <= Date.now()
</script>

<template>
  <div
    class="overflow-x-auto"
    tabindex="0"
    :aria-label="keys[0]?.personId === undefined ? 'Your keys' : 'Keys of others'"
    role="region"
  >
    <table class="list min-w-[720px]" aria-label="API keys">
      <thead>
        <tr>
          <th v-if="keys[0]?.personId !== undefined">Person</th>
          <th>Name</th>
          <th>Starts with</th>
          <th>Access</th>
          <th>Created</th>
          <th>Last used</th>
          <th>Expires</th>
          <th><span class="sr-only">Revoke</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="key in keys" :key="key.id">
          <td v-if="key.personId !== undefined">{{ store.personName(key.personId) }}</td>
          <td>{{ key.name }}</td>
          <td>{{ key.start }}…</td>
          <td>{{ sayScope(key) }}</td>
          <td>{{ when(key.createdAt) }}</td>
          <td>{{ when(key.lastUsedAt) }}</td>
          <td :class="expired(key) ? 'text-brick' : ''">
            {{ expired(key) ? `expired ${when(key.expiresAt)}` : when(key.expiresAt) }}
          </td>
          <td class="num">
            <button
              type="button"
              class="button py-0.5!"
              :aria-label="`Revoke ${key.name}`"
              @click="emit('revoke', key.id)"
            >
              Revoke
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
