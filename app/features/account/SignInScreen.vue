<script setup lang="ts">
import { ROLE_WORDS } from '#core/fields/field'
import { problemOf, send } from '~/shared/api/api'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

useHead({ title: 'Sign in' })
const route = useRoute()
const { data } = await useLiveQuery('/api/v1/session')
const email = ref('')
const password = ref('')
const wrong = ref('')
const busy = ref(false)

/** Where to go after: only to an address of our own. */
const onward = computed(() => {
  const to = String(route.query.to ?? '')
  return /^\/(?![/\\])/.test(to) ? to : '/day-sheet'
})
async function enter(work: () => Promise<unknown>): Promise<void> {
  busy.value = true
  wrong.value = ''
  try {
    await work()
    reloadNuxtApp({ path: onward.value, force: true })
  } catch (error) {
    wrong.value = problemOf(error).detail
    busy.value = false
    await nextTick()
    document.querySelector<HTMLElement>('#password')?.focus()
  }
}
const submit = () => enter(() => send('POST', '/api/v1/session', { email: email.value, password: password.value }))
const become = (personId: string) => enter(() => send('POST', '/api/v1/session/demo', { personId }))
</script>

<template>
  <div
    class="mx-auto grid max-w-[1040px] gap-x-20 gap-y-12 px-8 pt-20 pb-16 max-[639px]:pt-6"
    :class="data?.demo ? 'grid-cols-[minmax(0,1fr)_minmax(0,1fr)] max-[899px]:grid-cols-1' : 'max-w-[560px]'"
  >
    <form @submit.prevent="submit">
      <h1>{{ data?.workspace || 'Sky Lever' }}</h1>
      <label class="form-line mt-6"
        >Email <input v-model="email" class="entry" type="email" required autocomplete="username" autofocus /></label
      ><label class="form-line"
        >Password
        <input
          v-model="password"
          class="entry"
          type="password"
          required
          autocomplete="current-password"
          :aria-invalid="wrong !== ''"
          :aria-describedby="wrong ? 'wrong' : undefined"
      /></label>
      <p v-if="wrong" id="wrong" class="mt-3 text-brick" role="alert">
        <span class="mark stop mr-2" aria-hidden="true" />{{ wrong }}
      </p>
      <button type="submit" class="button main mt-6" :disabled="busy">Sign in</button>
      <p v-if="!data?.demo" class="quiet mt-6">
        Forgot your password? Ask a specialist in your workspace to set a new one.
      </p>
    </form>
    <section v-if="data?.demo" aria-labelledby="demo-title" class="border-l border-hair pl-10">
      <h2 id="demo-title">Demo: sign in as anyone</h2>
      <p class="quiet mt-1 mb-3">A fictional company. Every account has the password “{{ data.demo.password }}”.</p>
      <ul>
        <li v-for="person in data.demo.people" :key="person.id" class="border-b border-hair">
          <button
            type="button"
            class="group grid w-full grid-cols-[150px_1fr_auto] items-baseline gap-3 py-1.5 text-left hover:bg-paper2"
            :disabled="busy"
            @click="become(person.id)"
          >
            <span class="word w-fit font-serif text-[17px]">{{ person.name }}</span><span class="quiet truncate">{{
              person.title
            }}</span
            ><span class="quiet">{{ ROLE_WORDS[person.role] }}</span>
          </button>
        </li>
      </ul>
    </section>
  </div>
</template>
