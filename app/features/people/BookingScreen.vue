<script setup lang="ts">
import { slug as slugOf } from '#core/fields/define'
import { count } from '#core/language/counts'
import type { BookingPage } from '#core/booking/page'
import { attempt, send } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import AppDialog from '~/shared/dialog/AppDialog.vue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import { useCatalogue } from '~/shared/stores/catalogue'
import PeopleNav from './PeopleNav.vue'

/** Pages on which customers book appointments by themselves. */
useHead({ title: 'Booking pages' })
const store = useCatalogue()
const editable = computed(() => store.may('build'))
const { data, refresh } = await useLiveQuery('/api/v1/booking-pages')
const server = useRequestURL().origin
const people = computed(() => store.catalogue.people.filter((one) => one.active && one.role === 'owner'))
type Edited = { -readonly [K in keyof BookingPage]: BookingPage[K] }
/** The page that is edited; a new one has no address yet. */
const edited = ref<Edited | null>(null)
const isNew = ref(false)
function begin(page?: BookingPage): void {
  isNew.value = page === undefined
  edited.value = page
    ? { ...page, people: [...page.people] }
    : {
        slug: '',
        name: '',
        text: '',
        place: '',
        minutes: 60,
        noticeHours: 24,
        bufferMinutes: 15,
        daysAhead: 30,
        with: 'owner',
        people: people.value.map((one) => one.id),
        open: true,
      }
}
const problem = computed(() =>
  edited.value === null || edited.value.people.length > 0 ? null : 'Choose at least one person.',
)
const keep = once(async (): Promise<void> => {
  if (!edited.value || problem.value) return
  const { slug, ...page } = edited.value
  const at = isNew.value ? slugOf(page.name) || 'appointment-1' : slug
  if (!(await attempt(() => send('PUT', `/api/v1/booking-pages/${at}`, page)))) return
  edited.value = null
  await refresh()
})
async function remove(): Promise<void> {
  if (!edited.value || !(await attempt(() => send('DELETE', `/api/v1/booking-pages/${edited.value?.slug}`)))) return
  edited.value = null
  await refresh()
}
const NUMBERS = [
  { key: 'minutes', label: 'Length in minutes', min: 5, max: 600 },
  { key: 'noticeHours', label: 'Notice in hours', min: 0, max: 720 },
  { key: 'bufferMinutes', label: 'Minutes free before and after', min: 0, max: 240 },
  { key: 'daysAhead', label: 'Days ahead', min: 1, max: 180 },
] as const
</script>

<template>
  <div class="h-full overflow-auto px-8 pt-4 pb-12 max-[599px]:px-4" tabindex="0">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Booking pages</h1>
      <PeopleNav current="booking" />
      <button v-if="editable" type="button" class="button ml-auto" @click="begin()">Add page…</button>
    </div>
    <p class="quiet mt-1 max-w-[80ch]">
      Customers choose a free time, and can move or cancel it by the link they get. Times are free within office hours,
      when no one is away and there is no other appointment.
    </p>
    <table v-if="data && data.pages.length > 0" class="list mt-4" aria-label="Booking pages">
      <thead>
        <tr>
          <th>Page</th>
          <th>Address</th>
          <th>Length</th>
          <th>With</th>
          <th>State</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="page in data.pages" :key="page.slug">
          <td>
            <button v-if="editable" type="button" class="word" @click="begin(page)">{{ page.name }}</button><template
              v-else
              >{{ page.name }}</template
            >
          </td>
          <td>
            <a :href="`/book/${page.slug}`" target="_blank" class="name-link">{{ server }}/book/{{ page.slug }}</a>
          </td>
          <td>{{ count(page.minutes, 'minute') }}</td>
          <td>
            {{ page.with === 'owner' ? 'the owner, or in turn: ' : 'in turn: '
            }}{{ page.people.map((id) => store.personName(id)).join(', ') }}
          </td>
          <td>{{ page.open ? 'Open' : 'Closed' }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else-if="data" class="mt-16 text-center font-serif text-[20px]">
      No booking pages yet.
      <button v-if="editable" type="button" class="word" @click="begin()">Add the first one</button>
    </p>
    <AppDialog
      v-if="edited"
      :title="isNew ? 'Add booking page' : 'Change booking page'"
      :width="560"
      @close="edited = null"
    >
      <form class="label-grid mt-3" @submit.prevent="keep">
        <label for="page-name">Name</label>
        <input id="page-name" v-model="edited.name" class="entry" maxlength="80" required data-first />
        <label for="page-text">Text</label>
        <textarea id="page-text" v-model="edited.text" class="entry" rows="2" maxlength="1000" />
        <label for="page-place">Place</label>
        <input
          id="page-place"
          v-model="edited.place"
          class="entry"
          maxlength="200"
          placeholder="Address, or link of the call"
        />
        <template v-for="one in NUMBERS" :key="one.key">
          <label :for="`page-${one.key}`">{{ one.label }}</label>
          <input
            :id="`page-${one.key}`"
            v-model.number="edited[one.key]"
            class="entry w-28"
            type="number"
            :min="one.min"
            :max="one.max"
            required
          />
        </template>
        <label for="page-with">With</label>
        <select id="page-with" v-model="edited.with" class="entry">
          <option value="owner">the contact’s owner, otherwise in turn</option>
          <option value="turn">whoever has the fewest appointments</option>
        </select>
        <span>People</span>
        <fieldset class="grid grid-cols-2 gap-x-3 max-[499px]:grid-cols-1">
          <legend class="sr-only">People</legend>
          <label v-for="one in people" :key="one.id" class="flex min-h-6 items-center gap-1.5"
            ><input v-model="edited.people" type="checkbox" :value="one.id" />{{ one.name }}</label
          >
        </fieldset>
        <span />
        <label class="flex items-center gap-1.5"
          ><input v-model="edited.open" type="checkbox" />Open for bookings</label
        >
        <p v-if="problem" class="col-span-2 text-brick" role="alert">{{ problem }}</p>
        <p class="col-span-2 mt-2 flex gap-2">
          <button type="submit" class="button main">Save</button>
          <button type="button" class="button" @click="edited = null">Cancel</button>
          <button v-if="!isNew" type="button" class="button ml-auto" @click="remove">Delete</button>
        </p>
      </form>
    </AppDialog>
  </div>
</template>
