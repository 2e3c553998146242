<script setup lang="ts">
import { ROLES, type Person, type Role, ROLE_WORDS } from '#core/fields/field'
import { sayDate } from '#core/time/say'
import { read, send, attempt } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import AppDialog from '~/shared/dialog/AppDialog.vue'
import UnsavedWork from '~/shared/draft/UnsavedWork.vue'
import { useCatalogue } from '~/shared/stores/catalogue'
import PeopleNav from './PeopleNav.vue'
import ZoneList from './ZoneList.vue'

useHead({ title: 'People' })
const store = useCatalogue()
const ROLE_NOTES: Readonly<Record<Role, string>> = {
  specialist: 'Builds rules, can see and edit everything',
  lead: 'Can see everything and edit all records and tasks, builds no rules',
  owner: 'Works on the team’s records and tasks',
  viewer: 'Can see everything, can’t edit',
}
const people = computed(() =>
  [...store.catalogue.people].sort(
    (a, b) =>
      Number(b.active) - Number(a.active) || a.team.localeCompare(b.team, 'en') || a.name.localeCompare(b.name, 'en'),
  ),
)
const editable = computed(() => store.may('build'))
const open = ref<string | null>(null)
const blank = () => ({ name: '', email: '', role: 'owner' as Role, team: '', title: '', password: '' })
const given = reactive(blank())
const edited = reactive({
  name: '',
  role: 'owner' as Role,
  team: '',
  title: '',
  awayFrom: '',
  awayTo: '',
  deputyId: '',
  zone: '',
  active: true,
  password: '',
})

/** What stands in the forms, and what did when one was opened. */
const stands = computed(() => JSON.stringify([given, edited]))
const begun = ref('')
const dirty = computed(() => open.value !== null && stands.value !== begun.value)
const work = useTemplateRef('work')
async function close(): Promise<void> {
  if (await work.value?.mayLeave()) open.value = null
}
async function begin(person: Person | null): Promise<void> {
  if (!(await work.value?.mayLeave())) return
  open.value = person?.id ?? 'new'
  if (person)
    Object.assign(edited, {
      ...person,
      awayFrom: person.awayFrom ?? '',
      awayTo: person.awayTo ?? '',
      deputyId: person.deputyId ?? '',
      zone: person.zone ?? '',
      password: '',
    })
  else Object.assign(given, blank())
  begun.value = stands.value
  await nextTick()
  document.querySelector<HTMLElement>('[data-first]')?.focus()
}
const add = once(async (): Promise<void> => {
  if (await attempt(() => send('POST', '/api/v1/people', given))) await done()
})
interface Planned {
  readonly lines: readonly string[]
  readonly then: string
}
/** What is asked before somebody is made inactive, or goes away with nobody stepping in. */
const asked = ref<{ id: string; what: 'leave' | 'away'; planned: Planned | null } | null>(null)
async function ask(id: string): Promise<void> {
  const person = store.catalogue.person(id)
  if (!person) return
  const leaves = person.active && !edited.active
  if (leaves) {
    const planned = await attempt(() => read<Planned>(`/api/v1/people/${id}/planned`))
    if (planned) asked.value = { id, what: 'leave', planned }
  } else if (edited.awayFrom && edited.awayTo && !edited.deputyId && !(person.awayFrom && !person.deputyId))
    asked.value = { id, what: 'away', planned: null }
  else await save(id)
}
async function save(id: string): Promise<void> {
  asked.value = null
  const { name, role, team, title, awayFrom, awayTo, deputyId, zone, active, password } = edited
  const body = {
    name,
    role,
    team,
    title,
    active,
    awayFrom: awayFrom || null,
    awayTo: awayTo || null,
    deputyId: deputyId || null,
    zone: zone || null,
    ...(password ? { password } : {}),
  }
  if (await attempt(() => send('PATCH', `/api/v1/people/${id}`, body))) await done()
}
async function done(): Promise<void> {
  open.value = null
  await store.load()
}
const away = (person: Person): string =>
  person.awayFrom && person.awayTo
    ? `${sayDate(person.awayFrom)} – ${sayDate(person.awayTo)}${person.deputyId ? `, deputy ${store.personName(person.deputyId)}` : ''}`
    : ''
</script>

<template>
  <div class="relative h-full overflow-auto px-8 pt-4 pb-12" tabindex="0">
    <div class="flex items-baseline gap-4">
      <h1>People</h1>
      <PeopleNav current="people" />
      <p class="quiet">{{ people.filter((one) => one.active).length }} active people</p>
      <button v-if="editable" type="button" class="button main ml-auto" @click="begin(null)">Add person</button>
    </div>
    <form
      v-if="open === 'new'"
      class="mt-3 flex flex-wrap items-end gap-3 rounded-[3px] bg-paper2 p-3"
      aria-label="New person"
      @submit.prevent="add"
      @keydown.escape="close"
    >
      <label class="quiet"
        >Name<br /><input
          v-model="given.name"
          data-first
          class="entry w-44"
          required
          maxlength="100"
          autocomplete="off"
      /></label>
      <label class="quiet"
        >Email<br /><input v-model="given.email" class="entry w-56" type="email" required autocomplete="off"
      /></label>
      <label class="quiet"
        >Role<br /><select v-model="given.role" class="entry">
          <option v-for="role in ROLES" :key="role" :value="role">
            {{ ROLE_WORDS[role] }}: {{ ROLE_NOTES[role] }}
          </option>
        </select></label
      >
      <label class="quiet">Team<br /><input v-model="given.team" class="entry w-32" maxlength="100" /></label>
      <label class="quiet">Job title<br /><input v-model="given.title" class="entry w-44" maxlength="100" /></label>
      <label class="quiet"
        >Initial password<br /><input
          v-model="given.password"
          class="entry w-44"
          type="text"
          required
          minlength="10"
          autocomplete="off"
      /></label>
      <button type="submit" class="button main">Add person</button
      ><button type="button" class="button" @click="open = null">Cancel</button>
    </form>
    <ZoneList />
    <table class="list mt-3 table-fixed" aria-label="People">
      <thead>
        <tr>
          <th class="w-[14%]">Name</th>
          <th class="w-[17%]">Email</th>
          <th class="w-[8%]">Role</th>
          <th class="w-[9%]">Team</th>
          <th>Job title</th>
          <th class="w-[28%]">Away</th>
          <th class="w-[84px]"><span class="sr-only">Edit</span></th>
        </tr>
      </thead>
      <tbody>
        <template v-for="person in people" :key="person.id">
          <tr :class="!person.active && 'text-ink2'">
            <td class="truncate font-medium">
              {{ person.name }}<span v-if="!person.active" class="quiet"> · Inactive</span>
            </td>
            <td class="truncate" :title="person.email">{{ person.email }}</td>
            <td :title="ROLE_NOTES[person.role]">{{ ROLE_WORDS[person.role] }}</td>
            <td class="truncate">{{ person.team }}</td>
            <td class="truncate" :title="person.title">{{ person.title }}</td>
            <td class="truncate" :title="away(person)">{{ away(person) }}</td>
            <td class="num">
              <button
                v-if="editable"
                type="button"
                class="button py-0.5!"
                :aria-label="`Edit ${person.name}`"
                :aria-expanded="open === person.id"
                @click="open === person.id ? close() : begin(person)"
              >
                Edit
              </button>
            </td>
          </tr>
          <tr v-if="open === person.id">
            <td colspan="7" class="bg-paper2 p-3!">
              <form
                class="flex flex-wrap items-end gap-3"
                :aria-label="person.name"
                @submit.prevent="ask(person.id)"
                @keydown.escape="close"
              >
                <label class="quiet"
                  >Name<br /><input v-model="edited.name" data-first class="entry w-44" required maxlength="100"
                /></label>
                <label class="quiet"
                  >Role<br /><select v-model="edited.role" class="entry">
                    <option v-for="role in ROLES" :key="role" :value="role">{{ ROLE_WORDS[role] }}</option>
                  </select></label
                >
                <label class="quiet"
                  >Team<br /><input v-model="edited.team" class="entry w-32" maxlength="100"
                /></label>
                <label class="quiet"
                  >Job title<br /><input v-model="edited.title" class="entry w-48" maxlength="100"
                /></label>
                <label class="quiet"
                  >Away from<br /><input v-model="edited.awayFrom" class="entry" type="date"
                /></label>
                <label class="quiet">Until<br /><input v-model="edited.awayTo" class="entry" type="date" /></label>
                <label class="quiet"
                  >Deputy<br /><select v-model="edited.deputyId" class="entry">
                    <option value="">None</option>
                    <option
                      v-for="other in people.filter((one) => one.active && one.id !== person.id)"
                      :key="other.id"
                      :value="other.id"
                    >
                      {{ other.name }}
                    </option>
                  </select></label
                >
                <label v-if="!store.catalogue.workspace.demo" class="quiet"
                  >New password<br /><input
                    v-model="edited.password"
                    class="entry w-40"
                    type="text"
                    minlength="10"
                    placeholder="Leave empty to keep"
                    autocomplete="off"
                /></label>
                <label class="quiet"
                  >Time zone<br /><input
                    v-model="edited.zone"
                    class="entry w-40"
                    list="zones"
                    :placeholder="store.catalogue.workspace.zone"
                    autocomplete="off"
                /></label>
                <label class="flex items-center gap-1.5 pb-1.5"
                  ><input v-model="edited.active" type="checkbox" /> Active</label
                >
                <button type="submit" class="button main">Save</button
                ><button type="button" class="button" @click="open = null">Cancel</button>
              </form>
            </td>
          </tr>
        </template>
      </tbody>
    </table>
    <AppDialog
      v-if="asked?.what === 'leave'"
      :title="`Make ${store.personName(asked.id)} inactive?`"
      role="alertdialog"
      :width="520"
      @close="asked = null"
    >
      <template v-if="asked.planned && asked.planned.lines.length > 0">
        <p class="mt-2">Planned for {{ store.personName(asked.id) }} now:</p>
        <ul class="mt-1 max-h-60 list-disc overflow-auto pl-5" tabindex="0" aria-label="What is planned">
          <li v-for="line in asked.planned.lines" :key="line">{{ line }}</li>
        </ul>
      </template>
      <p v-else class="mt-2">Nothing is planned for {{ store.personName(asked.id) }}.</p>
      <p class="mt-2">{{ asked.planned?.then }}</p>
      <p class="mt-4 flex gap-2">
        <button type="button" class="button main" @click="save(asked.id)">Make inactive</button>
        <button type="button" class="button" data-first @click="asked = null">Cancel</button>
      </p>
    </AppDialog>
    <UnsavedWork ref="work" :dirty="dirty" />
    <AppDialog
      v-if="asked?.what === 'away'"
      :title="`Who steps in for ${store.personName(asked.id)}?`"
      role="alertdialog"
      @close="asked = null"
    >
      <p class="mt-2">
        Without a deputy, new tasks during this time go to {{ store.personName(asked.id) }} all the same.
      </p>
      <label class="quiet mt-3 block"
        >Deputy<br /><select v-model="edited.deputyId" class="entry" data-first>
          <option value="">None</option>
          <option
            v-for="other in people.filter((one) => one.active && one.id !== asked?.id)"
            :key="other.id"
            :value="other.id"
          >
            {{ other.name }}
          </option>
        </select></label
      >
      <p class="mt-4 flex gap-2">
        <button type="button" class="button main" @click="save(asked.id)">
          {{ edited.deputyId ? 'Save' : 'Save without deputy' }}
        </button>
        <button type="button" class="button" @click="asked = null">Cancel</button>
      </p>
    </AppDialog>
  </div>
</template>
