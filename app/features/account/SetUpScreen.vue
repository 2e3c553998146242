<script setup lang="ts">
import { problemOf, read, send } from '~/shared/api/api'

useHead({ title: 'Set up' })
const given = reactive({ name: '', zone: 'UTC', currency: 'EUR', personName: '', email: '', password: '', code: '' })
const wrong = ref<Readonly<Record<string, string>>>({})
const busy = ref(false)
const needsCode = ref(false)
const zones = Intl.supportedValuesOf('timeZone')
const PLACES: Readonly<Record<string, string>> = {
  name: 'name',
  zone: 'zone',
  currency: 'currency',
  'person.name': 'personName',
  'person.email': 'email',
  'person.password': 'password',
  code: 'code',
}
onMounted(async () => {
  // Where it is asked from is known of the browser, not of the page that is made here.
  needsCode.value = (await read<{ readonly needsCode: boolean }>('/api/v1/session')).needsCode

  const own = Intl.DateTimeFormat().resolvedOptions().timeZone
  if (zones.includes(own)) given.zone = own
})
async function submit(): Promise<void> {
  busy.value = true
  wrong.value = {}
  try {
    const { name, zone, currency, personName, email, password, code } = given
    await send('POST', '/api/v1/workspace', {
      name,
      zone,
      currency: currency.toUpperCase(),
      person: { name: personName, email, password },
      code,
    })
    reloadNuxtApp({ path: '/data', force: true })
  } catch (error) {
    const problem = problemOf(error)
    wrong.value = Object.fromEntries(problem.places.map((place) => [PLACES[place.path] ?? '', place.text]))
    if (problem.places.length === 0) wrong.value = { '': problem.detail }
    busy.value = false
  }
}
</script>

<template>
  <form class="mx-auto max-w-[720px] px-8 pt-16 pb-16" @submit.prevent="submit">
    <h1>Set up your workspace</h1>
    <p class="quiet mt-1">
      Nothing is set up yet. You will be the first specialist: specialists build rules and add people.
    </p>
    <div class="mt-6" />
    <label class="form-line"
      >Workspace name
      <input
        v-model="given.name"
        class="entry"
        required
        maxlength="100"
        autofocus
        :aria-invalid="Boolean(wrong.name)"
        aria-describedby="name-wrong"
      /><span id="name-wrong" class="said-wrong">{{ wrong.name }}</span></label
    ><label class="form-line"
      >Time zone
      <select v-model="given.zone" class="entry">
        <option v-for="zone in zones" :key="zone" :value="zone">{{ zone.replaceAll('_', ' ') }}</option>
        <option v-if="!zones.includes('UTC')" value="UTC">UTC</option>
      </select></label
    ><label class="form-line"
      >Currency
      <input
        v-model="given.currency"
        class="entry"
        required
        maxlength="3"
        pattern="[A-Za-z]{3}"
        title="Three-letter currency code, for example EUR"
        :aria-invalid="Boolean(wrong.currency)"
        aria-describedby="currency-wrong"
      /><span id="currency-wrong" class="said-wrong">{{ wrong.currency }}</span></label
    ><label class="form-line"
      >Your name
      <input
        v-model="given.personName"
        class="entry"
        required
        maxlength="100"
        autocomplete="name"
        :aria-invalid="Boolean(wrong.personName)"
        aria-describedby="personName-wrong"
      /><span id="personName-wrong" class="said-wrong">{{ wrong.personName }}</span></label
    ><label class="form-line"
      >Email
      <input
        v-model="given.email"
        class="entry"
        required
        type="email"
        autocomplete="username"
        :aria-invalid="Boolean(wrong.email)"
        aria-describedby="email-wrong"
      /><span id="email-wrong" class="said-wrong">{{ wrong.email }}</span></label
    ><label class="form-line"
      >Password
      <input
        v-model="given.password"
        class="entry"
        required
        type="password"
        minlength="10"
        autocomplete="new-password"
        :aria-invalid="Boolean(wrong.password)"
        aria-describedby="password-wrong password-hint"
      /><span id="password-wrong" class="said-wrong">{{ wrong.password }}</span></label
    >
    <p id="password-hint" class="quiet">At least 10 characters. A few words work best.</p>
    <label v-if="needsCode" class="form-line"
      >Set-up code
      <input
        v-model="given.code"
        class="entry"
        required
        maxlength="40"
        autocomplete="one-time-code"
        spellcheck="false"
        :aria-invalid="Boolean(wrong.code)"
        aria-describedby="code-wrong code-hint"
      /><span id="code-wrong" class="said-wrong">{{ wrong.code }}</span></label
    >
    <p v-if="needsCode" id="code-hint" class="quiet">The server printed it when it started.</p>
    <p v-if="wrong['']" class="mt-3 text-brick" role="alert">
      <span class="mark stop mr-2" aria-hidden="true" />{{ wrong[''] }}
    </p>
    <button type="submit" class="button main mt-6" :disabled="busy">Create workspace</button>
  </form>
</template>
