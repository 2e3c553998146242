<script setup lang="ts">
import { count } from '#core/language/counts'
import { OBJECT_WORDS } from '#core/records/kinds'
import { doubleSpelling, spellingsFromText, spellingsToText } from '#core/synonyms/check'
import { send, attempt } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { draftOf } from '~/shared/draft/draftOf'
import UnsavedWork from '~/shared/draft/UnsavedWork.vue'
import { useCatalogue } from '~/shared/stores/catalogue'
import FieldsNav from './FieldsNav.vue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

/** Sets of spellings that count as one value, beside what is really written in records. */
useHead({ title: 'Synonyms' })
const route = useRoute()
const store = useCatalogue()
const sets = computed(() => store.catalogue.data.synonyms ?? [])
const chosen = computed(() => sets.value.find((set) => set.id === Number(route.query.set)) ?? sets.value[0] ?? null)
const { data, refresh } = await useLiveQuery('/api/v1/synonyms/:id', {
  params: () => (chosen.value ? { id: chosen.value.id } : null),
  key: 'synonyms',
  changedBy: ['catalogue'],
  async reread(again) {
    await store.load()
    await again()
  },
})
const editable = computed(() => store.may('build'))
const { written, dirty, elsewhere, take, save } = draftOf(
  () => ({ name: chosen.value?.name ?? '', text: spellingsToText(chosen.value?.groups ?? []) }),
  () => chosen.value?.id,
)
const groups = computed(() => spellingsFromText(written.value.text))
const double = computed(() => doubleSpelling(groups.value))

async function keep(): Promise<void> {
  if (!chosen.value || double.value) return
  await save(async ({ name }) => {
    const body = { name, groups: groups.value }
    const saved = await attempt(() => send('PATCH', `/api/v1/synonyms/${chosen.value?.id}`, body))
    if (!saved) return null
    await store.load()
    await refresh()
    return saved
  })
}
const making = ref(false)
const newName = ref('')
const make = once(async (): Promise<void> => {
  const made = await attempt(() => send<{ id: number }>('POST', '/api/v1/synonyms', { name: newName.value }))
  if (!made) return
  making.value = false
  newName.value = ''
  await store.load()
  await navigateTo({ query: { set: made.id } })
})
async function remove(): Promise<void> {
  if (!chosen.value || !(await attempt(() => send('DELETE', `/api/v1/synonyms/${chosen.value?.id}`)))) return
  await store.load()
  await navigateTo({ query: {} })
}
const box = useTemplateRef<HTMLTextAreaElement>('box')
/** Begins a line for a spelling that no line has yet. */
function takeUp(spelling: string): void {
  const { text } = written.value
  written.value.text = `${text}${text === '' || text.endsWith('\n') ? '' : '\n'}${spelling} = `
  void nextTick(() => {
    const end = written.value.text.length
    box.value?.focus()
    box.value?.setSelectionRange(end, end)
    box.value?.scrollTo({ top: box.value.scrollHeight })
  })
}
</script>

<template>
  <div class="screen flex h-full min-h-0 flex-col px-8 pt-4 pb-6">
    <div class="flex flex-none flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Synonyms</h1>
      <FieldsNav current="synonyms" />
      <button v-if="editable" type="button" class="button main ml-auto" @click="making = !making">
        New synonym set
      </button>
    </div>
    <p class="quiet mt-1 flex-none">Different spellings that count as one value. Records keep the original spelling.</p>
    <form
      v-if="making"
      class="mt-3 flex flex-none items-end gap-2 rounded-[3px] bg-paper2 p-3"
      @submit.prevent="make"
      @keydown.escape="making = false"
    >
      <label class="quiet"
        >Name<br /><input
          v-model="newName"
          class="entry w-64"
          required
          maxlength="100"
          @vue:mounted="($event.el as HTMLElement).focus()"
      /></label>
      <button type="submit" class="button main">Create set</button
      ><button type="button" class="button" @click="making = false">Cancel</button>
    </form>
    <nav aria-label="Synonym sets" class="mt-3 flex flex-none gap-4 border-b border-hair font-serif text-[17px]">
      <NuxtLink
        v-for="set in sets"
        :key="set.id"
        :to="{ query: { set: set.id } }"
        class="pb-1.5"
        :class="set.id === chosen?.id ? 'border-b-2 border-ink font-medium' : 'text-ink2 italic'"
        :aria-current="set.id === chosen?.id ? 'true' : undefined"
        >{{ set.name }}</NuxtLink
      >
    </nav>
    <UnsavedWork :dirty="dirty" :elsewhere="elsewhere" @take="take" />
    <div v-if="chosen && data" class="split mt-3 grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_400px] gap-8">
      <form class="flex min-h-0 flex-col" aria-label="Synonym set" @submit.prevent="keep">
        <div class="flex flex-wrap items-end gap-3">
          <label class="quiet"
            >Name<br /><input v-model="written.name" class="entry w-64" required maxlength="100" :readonly="!editable"
          /></label>
          <template v-if="editable"
            ><button type="submit" class="button main" :disabled="!dirty || double !== null">Save</button
            ><button v-if="data.fields.length === 0" type="button" class="button" @click="remove">
              Delete set
            </button></template
          >
          <p v-if="double" class="text-brick" role="alert">
            “{{ double.spelling }}” is listed under “{{ double.first }}” and under “{{ double.second }}”. Remove one.
          </p>
          <p v-else class="quiet">{{ count(groups.length, 'value') }}<template v-if="dirty"> · Not saved</template></p>
        </div>
        <label class="quiet mt-3 flex min-h-0 flex-1 flex-col"
          >One value per line: main spelling first, then the others, separated by “=”.<textarea
            ref="box"
            v-model="written.text"
            class="entry mt-1 min-h-40 flex-1 resize-none font-sans text-[13.5px] leading-relaxed whitespace-pre"
            wrap="off"
            spellcheck="false"
            :readonly="!editable"
            @keydown.ctrl.enter.prevent="keep"
          />
        </label>
      </form>
      <section class="min-h-0 overflow-auto" aria-label="Values in records" tabindex="0">
        <h2 class="font-serif text-[17px]">Values in records</h2>
        <p v-if="data.fields.length === 0" class="quiet mt-1">
          No field uses this set yet. Choose it under “Synonyms” of a text field.
        </p>
        <template v-else>
          <p class="quiet mt-1">
            in
            <template v-for="(field, i) in data.fields" :key="field.id"
              >{{ i > 0 ? ', ' : '' }}{{ field.label }} ({{ OBJECT_WORDS[field.object].many }})</template
            >
          </p>
          <table class="list mt-2" aria-label="Values in records">
            <thead>
              <tr>
                <th>Value</th>
                <th>Counts as</th>
                <th class="text-right!">Records</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="one in data.seen" :key="one.spelling">
                <td>{{ one.spelling }}</td>
                <td>
                  <template v-if="one.known">{{ one.countsAs === one.spelling ? '' : one.countsAs }}</template><button
                    v-else-if="editable"
                    type="button"
                    class="word"
                    @click="takeUp(one.spelling)"
                  >
                    Not in the set (Add)</button
                  ><span v-else class="quiet">Not in the set (Add)</span>
                </td>
                <td class="num">{{ one.count.toLocaleString('en') }}</td>
              </tr>
            </tbody>
          </table>
          <p v-if="data.seen.length === 0" class="quiet mt-2">No values yet.</p>
        </template>
      </section>
    </div>
    <p v-else class="py-16 text-center font-serif text-[20px]">No synonym sets yet.</p>
  </div>
</template>
