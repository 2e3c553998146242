<script setup lang="ts">
import { isLinkable } from '#core/records/record'
import { OBJECT_WORDS, sameRef, type RecordRef } from '#core/records/kinds'
import type { RecordPage } from '~~/server/views/record'
import { focusSoon } from '~/shared/keys/focus'
import { recordPath } from '~/shared/paths'
import { send, attempt } from '~/shared/api/api'
import PopOver from '~/shared/words/PopOver.vue'
import RecordPicker from '~/shared/record/RecordPicker.vue'

/** What a record is linked to: added by name, taken away, given a role, made the main one. */
const props = defineProps<{ page: RecordPage; editable: boolean }>()
const emit = defineEmits<{ changed: [] }>()
type Link = RecordPage['links'][number]
const SHOWN = 12
const all = ref(false)
const shown = computed(() => (all.value ? props.page.links : props.page.links.slice(0, SHOWN)))

/** Links go one way, from deals to contacts and companies: seen from the other end they are the other record's. */
const ends = (other: RecordRef) =>
  isLinkable(props.page.ref, other) ? { from: props.page.ref, to: other } : { from: other, to: props.page.ref }
const pathOf = (ref: RecordRef): string => `/api/v1/records/${ref.object}/${ref.id}/links`

const editing = ref<string | null>(null)
const role = ref('')
const keyOf = (ref: RecordRef): string => `${ref.object}-${ref.id}`
const edited = computed(() => props.page.links.find((link) => keyOf(link.ref) === editing.value) ?? null)
function edit(link: Link): void {
  editing.value = keyOf(link.ref)
  role.value = link.role
}
async function save(link: Link, main: boolean): Promise<void> {
  const { from, to } = ends(link.ref)
  editing.value = null
  if (await attempt(() => send('POST', pathOf(from), { to, role: role.value, main }))) emit('changed')
}
async function remove(link: Link): Promise<void> {
  const { from, to } = ends(link.ref)
  editing.value = null
  if (await attempt(() => send('DELETE', `${pathOf(from)}/${to.object}/${to.id}`))) emit('changed')
}

const adding = ref(false)
const fits = (ref: RecordRef): boolean =>
  (isLinkable(props.page.ref, ref) || isLinkable(ref, props.page.ref)) &&
  !props.page.links.some((link) => sameRef(link.ref, ref))
async function add(ref: RecordRef): Promise<void> {
  close()
  const { from, to } = ends(ref)
  if (await attempt(() => send('POST', pathOf(from), { to }))) emit('changed')
}
function begin(): void {
  adding.value = true
}
function close(): void {
  adding.value = false
  editing.value = null
  void nextTick(() => document.querySelector<HTMLElement>('[data-link-add]')?.focus())
}
</script>

<template>
  <section aria-label="Links" class="mb-3">
    <div v-for="link in shown" :key="keyOf(link.ref)" class="flex min-h-[26px] items-baseline gap-2">
      <span class="w-[130px] flex-none truncate text-ink2" :title="link.role"
        >{{ link.main ? 'Main ' : ''
        }}{{ link.main ? OBJECT_WORDS[link.ref.object].one : OBJECT_WORDS[link.ref.object].One
        }}<template v-if="link.role">, {{ link.role }}</template></span
      >
      <NuxtLink :to="recordPath(link.ref)" class="name-link min-w-0 flex-1 truncate font-semibold">{{
        link.name
      }}</NuxtLink>
      <button
        v-if="editable"
        type="button"
        class="quiet px-1"
        :data-link="keyOf(link.ref)"
        :aria-label="`Edit link to ${link.name}`"
        @click="edit(link)"
      >
        …
      </button>
    </div>
    <p class="mt-0.5 flex gap-4">
      <button v-if="page.links.length > SHOWN" type="button" class="word" @click="all = !all">
        {{ all ? 'Show fewer' : `Show ${page.links.length - SHOWN} more` }}
      </button>
      <button v-if="editable" type="button" class="word" data-link-add @click="begin">Add link…</button>
    </p>
    <PopOver v-if="adding" anchor="[data-link-add]" label="Add link" @close="close">
      <RecordPicker
        label="Record to link"
        placeholder="Search by name"
        :fits="fits"
        :hint="(ref) => OBJECT_WORDS[ref.object].one"
        @pick="add"
      />
    </PopOver>
    <PopOver v-if="edited" :anchor="`[data-link='${editing}']`" label="Link" @close="close">
      <form @submit.prevent="save(edited, edited.main)">
        <label class="quiet block"
          >Role<br /><input
            v-model="role"
            class="entry w-full"
            maxlength="100"
            placeholder="For example buyer, pays the bills"
            @vue:mounted="({ el }: { readonly el: unknown }) => focusSoon(el)"
        /></label>
        <p class="mt-2 flex flex-wrap gap-2">
          <button type="submit" class="button main">Save</button
          ><button
            v-if="!edited.main && isLinkable(page.ref, edited.ref)"
            type="button"
            class="button"
            @click="save(edited, true)"
          >
            Set as main {{ OBJECT_WORDS[edited.ref.object].one }}</button
          ><button type="button" class="button" @click="remove(edited)">Remove link</button>
        </p>
      </form>
    </PopOver>
  </section>
</template>
