<script setup lang="ts">
import { sayInstant } from '#core/time/say'
import { attempt, send } from '~/shared/api/api'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import { useCatalogue } from '~/shared/stores/catalogue'
import { sayAgent } from './say-agent'

/** The browsers in which somebody is signed in, each to be signed out by itself. */
const store = useCatalogue()
const { data, refresh } = await useLiveQuery('/api/v1/account/sessions')

async function end(id: number): Promise<void> {
  if (await attempt(() => send('DELETE', `/api/v1/account/sessions/${id}`))) await refresh()
}
async function leaveAll(): Promise<void> {
  if (await attempt(() => send('DELETE', '/api/v1/session/all'))) reloadNuxtApp({ path: '/sign-in', force: true })
}
const when = (atMs: number): string => sayInstant(atMs, store.catalogue.workspace.zone)
</script>

<template>
  <section aria-labelledby="sessions-title">
    <h2 id="sessions-title">Signed in</h2>
    <p class="quiet mt-1">A browser is signed out after 7 days without use, and after 30 days in any case.</p>
    <table v-if="data?.sessions.length" class="list mt-3" aria-label="Browsers in which you are signed in">
      <thead>
        <tr>
          <th>Browser</th>
          <th>Signed in</th>
          <th>Last used</th>
          <th><span class="sr-only">Sign out</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in data.sessions" :key="one.id">
          <td :title="one.agent">{{ sayAgent(one.agent) }}<b v-if="one.current"> (this one)</b></td>
          <td>{{ when(one.createdAt) }}</td>
          <td>{{ when(one.lastSeenAt) }}</td>
          <td class="num">
            <button
              v-if="!one.current"
              type="button"
              class="button py-0.5!"
              :aria-label="`Sign out ${sayAgent(one.agent)}, last used ${when(one.lastSeenAt)}`"
              @click="end(one.id)"
            >
              Sign out
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p class="mt-3">
      <button type="button" class="button" @click="leaveAll">Sign out everywhere</button>
      <span class="quiet ml-2">In every browser, including this one. Your API keys are revoked too.</span>
    </p>
  </section>
</template>
