<script setup lang="ts">
import { sayInstant } from '#core/time/say'
import { send, attempt } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useNotices } from '~/shared/stores/notices'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

useHead({ title: 'Password and keys' })
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
  notices.tell({ title: 'Your password is changed', text: 'Every other browser was signed out.' })
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
      {{ store.me?.email }} · {{ store.me?.role }}{{ store.me?.team ? ` · team ${store.me.team}` : '' }}
    </p>
    <section class="mt-6" aria-labelledby="password-title">
      <h2 id="password-title">Password</h2>
      <p v-if="store.catalogue.workspace.demo" class="quiet mt-1">Passwords of a demo workspace stay as they are.</p>
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
          >now<br /><input v-model="current" class="entry" type="password" required autocomplete="current-password"
        /></label>
        <label class="quiet"
          >from now on, at least ten characters<br /><input
            v-model="next"
            class="entry w-72"
            type="password"
            required
            minlength="10"
            autocomplete="new-password"
        /></label>
        <button type="submit" class="button">Change</button>
      </form>
      <p class="mt-3">
        <button type="button" class="button" @click="leaveAll">Sign out everywhere</button>
        <span class="quiet ml-2">in every browser, this one too; keys stay as they are</span>
      </p>
    </section>
    <section class="mt-8" aria-labelledby="keys-title">
      <h2 id="keys-title">Keys for the API</h2>
      <p class="quiet mt-1">
        A program that brings a key may do what you may. Send it as <code>Authorization: Bearer …</code>;
        <NuxtLink to="/reference" class="word">what the API takes and answers</NuxtLink>.
      </p>
      <p v-if="shown" class="mt-3 rounded-[3px] bg-saffron-t px-3 py-2" role="status">
        <b class="font-semibold">{{ shown }}</b><br /><span class="text-[13px]"
          >Keep it now: it is shown this once.</span
        >
      </p>
      <form class="mt-3 flex gap-2" @submit.prevent="make">
        <input
          v-model="keyName"
          class="entry w-72"
          required
          maxlength="100"
          placeholder="What is it for?"
          aria-label="What the key is for"
        /><button type="submit" class="button">Make a key</button>
      </form>
      <table v-if="data?.tokens.length" class="ledger mt-4">
        <thead>
          <tr>
            <th>For</th>
            <th>Begins with</th>
            <th>Made</th>
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
      <p v-else class="quiet mt-3">You have made none.</p>
    </section>
  </div>
</template>
