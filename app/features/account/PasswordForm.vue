<script setup lang="ts">
import { attempt, send } from '~/shared/api/api'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useNotices } from '~/shared/stores/notices'

/** One’s own password, changed by who knows the one before. */
const store = useCatalogue()
const notices = useNotices()
const current = ref('')
const next = ref('')

async function change(): Promise<void> {
  if (!(await attempt(() => send('PUT', '/api/v1/account/password', { current: current.value, next: next.value }))))
    return
  current.value = ''
  next.value = ''
  notices.tell({
    title: 'Password changed',
    text: 'You were signed out in all other browsers, and your API keys were revoked.',
  })
}
</script>

<template>
  <section aria-labelledby="password-title">
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
  </section>
</template>
