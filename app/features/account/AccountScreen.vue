<script setup lang="ts">
import { ROLE_WORDS } from '#core/fields/field'
import { sayInstant } from '#core/time/say'
import { send, attempt } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useNotices } from '~/shared/stores/notices'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

useHead({ title: 'Account and API keys' })
const store = useCatalogue()
const notices = useNotices()
const { data, refresh } = await useLiveQuery('/api/v1/account/tokens')
const current = ref('')
const next = ref('')
const keyName = ref('')
const shown = ref<string | null>(null)

async function change(): Promise<void> {
  if (!(await attempt(() => send('PUT', '/api/v1/account/password', { current: current.value, next: next.value }))))
    return
  current.value = ''
  next.value = ''
  notices.tell({ title: 'Password changed', text: 'You were signed out in all other browsers.' })
}
async function leaveAll(): Promise<void> {
  if (await attempt(() => send('DELETE', '/api/v1/session/all'))) reloadNuxtApp({ path: '/sign-in', force: true })
}
async function make(): Promise<void> {
  const made = await attempt(() => send<{ token: string }>('POST', '/api/v1/account/tokens', { name: keyName.value }))
  if (!made) return
  shown.value = made.token
  keyName.value = ''
  await refresh()
}
async function revoke(id: number): Promise<void> {
  if (await attempt(() => send('DELETE', `/api/v1/account/tokens/${id}`))) await refresh()
}
const when = (atMs: number | null): string =>
  atMs === null ? 'never' : sayInstant(atMs, store.catalogue.workspace.zone)
</script>

<template>
  <div class="mx-auto h-full max-w-[980px] overflow-auto px-8 pt-4 pb-12" tabindex="0">
    <h1>{{ store.me?.name }}</h1>
    <p class="quiet">
      {{ store.me?.email }} · {{ store.me ? ROLE_WORDS[store.me.role] : ''
      }}{{ store.me?.team ? ` · Team ${store.me.team}` : '' }}
    </p>
    <section class="mt-6" aria-labelledby="password-title">
      <h2 id="password-title">Password</h2>
      <p v-if="store.catalogue.workspace.demo" class="quiet mt-1">Passwords can’t be changed in a demo.</p>
      <form v-else class="mt-2 flex flex-wrap items-end gap-3" @submit.prevent="change">
        <input
          class="sr-only"
          type="text"
          autocomplete="username"
          :value="store.me?.email"
          tabindex="-1"
          aria-hidden="true"
          readonly
        />
        <label class="quiet"
          >Current password<br /><input
            v-model="current"
            class="entry"
            type="password"
            required
            autocomplete="current-password"
        /></label>
        <label class="quiet"
          >New password (at least 10 characters)<br /><input
            v-model="next"
            class="entry w-72"
            type="password"
            required
            minlength="10"
            autocomplete="new-password"
        /></label>
        <button type="submit" class="button">Change password</button>
      </form>
      <p class="mt-3">
        <button type="button" class="button" @click="leaveAll">Sign out everywhere</button>
        <span class="quiet ml-2">In every browser, including this one. API keys keep working.</span>
      </p>
    </section>
    <section class="mt-8" aria-labelledby="keys-title">
      <h2 id="keys-title">API keys</h2>
      <p class="quiet mt-1">
        A program with a key can do what you can do. Send it as <code>Authorization: Bearer …</code>;
        <NuxtLink to="/reference" class="word">API reference</NuxtLink>.
      </p>
      <p v-if="shown" class="mt-3 rounded-[3px] bg-saffron-t px-3 py-2" role="status">
        <b class="font-semibold">{{ shown }}</b><br /><span class="text-[13px]"
          >Copy it now. It won’t be shown again.</span
        >
      </p>
      <form class="mt-3 flex flex-wrap gap-2" @submit.prevent="make">
        <input
          v-model="keyName"
          class="entry w-72"
          required
          maxlength="100"
          placeholder="Name, for example “Website form”"
          aria-label="Key name"
        /><button type="submit" class="button">Create API key</button>
      </form>
      <table v-if="data?.tokens.length" class="ledger mt-4">
        <thead>
          <tr>
            <th>Name</th>
            <th>Starts with</th>
            <th>Created</th>
            <th>Last used</th>
            <th><span class="sr-only">Revoke</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="token in data.tokens" :key="token.id">
            <td>{{ token.name }}</td>
            <td>{{ token.start }}…</td>
            <td>{{ when(token.createdAt) }}</td>
            <td>{{ when(token.lastUsedAt) }}</td>
            <td class="num">
              <button
                type="button"
                class="button py-0.5!"
                :aria-label="`Revoke ${token.name}`"
                @click="revoke(token.id)"
              >
                Revoke
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else class="quiet mt-3">You have no API keys.</p>
    </section>
  </div>
</template>
