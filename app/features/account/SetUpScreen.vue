<script setup lang="ts">
import { problemOf, send } from '~/shared/api/api'

useHead({ title: 'Set up' })
const given = reactive({ name: '', zone: 'UTC', currency: 'EUR', personName: '', email: '', password: '' })
const wrong = ref<Readonly<Record<string, string>>>({})
const busy = ref(false)
const zones = Intl.supportedValuesOf('timeZone')
const PLACES: Readonly<Record<string, string>> = {
  name: 'name',
  zone: 'zone',
  currency: 'currency',
  'person.name': 'personName',
  'person.email': 'email',
  'person.password': 'password',
}
onMounted(() => {
  const own = Intl.DateTimeFormat().resolvedOptions().timeZone
  if (zones.includes(own)) given.zone = own
})
async function submit(): Promise<void> {
  busy.value = true
  wrong.value = {}
  try {
    const { name, zone, currency, personName, email, password } = given
    await send('POST', '/api/v1/workspace', {
      name,
      zone,
      currency: currency.toUpperCase(),
      person: { name: personName, email, password },
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
    <h1>Begin a workspace</h1>
    <p class="quiet mt-1">
      It is empty, and nobody can sign in yet. You become its first specialist: who builds rules and lets the others in.
    </p>
    <div class="mt-6 font-serif text-[19px] leading-[2.4]">
      <label for="firm">We are </label
      ><input
        id="firm"
        v-model="given.name"
        class="sentence-entry"
        required
        maxlength="100"
        placeholder="the firm’s name"
        autofocus
      /><template v-if="wrong.name">
        <span class="said-wrong">{{ wrong.name }}</span></template
      >, <br /><label for="zone">live by the clock of </label
      ><select id="zone" v-model="given.zone" class="sentence-entry">
        <option v-for="zone in zones" :key="zone" :value="zone">{{ zone.replaceAll('_', ' ') }}</option>
        <option v-if="!zones.includes('UTC')" value="UTC">UTC</option>
      </select>
      <br /><label for="currency">and count in </label
      ><input
        id="currency"
        v-model="given.currency"
        class="sentence-entry w-24 min-w-0!"
        required
        maxlength="3"
        pattern="[A-Za-z]{3}"
        title="A currency code of three letters, such as EUR"
      /><span v-if="wrong.currency" class="said-wrong">{{ wrong.currency }}</span
      >. <br /><label for="who">I am </label
      ><input
        id="who"
        v-model="given.personName"
        class="sentence-entry"
        required
        maxlength="100"
        autocomplete="name"
        placeholder="your name"
      /><span v-if="wrong.personName" class="said-wrong">{{ wrong.personName }}</span
      >, <br /><label for="mail">sign in as </label
      ><input
        id="mail"
        v-model="given.email"
        class="sentence-entry"
        type="email"
        required
        autocomplete="username"
        placeholder="your email address"
      /><span v-if="wrong.email" class="said-wrong">{{ wrong.email }}</span> <br /><label for="pass"
        >with the password </label
      ><input
        id="pass"
        v-model="given.password"
        class="sentence-entry"
        type="password"
        required
        minlength="10"
        autocomplete="new-password"
        aria-describedby="pass-hint"
      /><span v-if="wrong.password" class="said-wrong">{{ wrong.password }}</span
      >.
    </div>
    <p id="pass-hint" class="quiet">At least ten characters; a few words are best.</p>
    <p v-if="wrong['']" class="mt-3 text-brick" role="alert">
      <span class="mark stop mr-2" aria-hidden="true" />{{ wrong[''] }}
    </p>
    <button type="submit" class="button main mt-6" :disabled="busy">Begin</button>
  </form>
</template>
