<script setup lang="ts">
import { EMPTY_GROUP, type Group } from '#core/conditions/document'
import { send, attempt } from '~/shared/api/api'
import { draftOf } from '~/shared/draft/draftOf'
import UnsavedWork from '~/shared/draft/UnsavedWork.vue'
import { useLive } from '~/shared/live/useLive'
import { useCatalogue } from '~/shared/stores/catalogue'
import PeopleNav from './PeopleNav.vue'
import FilterSentence from '~/shared/words/FilterSentence.vue'
import ConditionGroup from '~/shared/words/ConditionGroup.vue'

/** Who covers where: the first territory whose conditions a company meets. */
useHead({ title: 'Territories' })
const store = useCatalogue()
const editable = computed(() => store.may('build'))
interface Line {
  name: string
  filter: Group
  personId: string
}
const {
  written: lines,
  dirty,
  elsewhere,
  take,
  save,
} = draftOf((): Line[] =>
  (store.catalogue.data.territories ?? []).map(({ name, filter, personId }) => ({ name, filter, personId })),
)
useLive((message) => {
  if (message.about === 'catalogue') void store.load()
})
const people = computed(() => store.catalogue.people.filter((person) => person.active))
function add(): void {
  lines.value = [
    ...lines.value,
    { name: '', filter: EMPTY_GROUP, personId: people.value.find((person) => person.role === 'owner')?.id ?? '' },
  ]
  void nextTick(() => document.querySelector<HTMLElement>('[data-territory]:last-child input')?.focus())
}
function set(at: number, change: Partial<Line>): void {
  lines.value = lines.value.map((line, i) => (i === at ? { ...line, ...change } : line))
}
function move(at: number, by: 1 | -1): void {
  const next = [...lines.value]
  const [line] = next.splice(at, 1)
  if (line) next.splice(at + by, 0, line)
  lines.value = next
}
async function keep(): Promise<void> {
  await save(async (territories) => {
    const saved = await attempt(() => send('PUT', '/api/v1/territories', { territories }))
    if (saved) await store.load()
    return saved
  })
}
</script>

<template>
  <div class="relative h-full overflow-auto px-8 pt-4 pb-12" tabindex="0">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Territories</h1>
      <PeopleNav current="territories" />
      <span v-if="editable" class="ml-auto flex gap-2"
        ><button type="button" class="button" @click="add">New territory</button
        ><button
          type="button"
          class="button main"
          :disabled="!dirty || lines.some((line) => line.name.trim() === '')"
          data-keep
          @click="keep"
        >
          Save
        </button></span
      >
    </div>
    <p class="quiet mt-1">
      Used when a rule assigns “by territory”. The first matching territory from the top is used.
    </p>
    <UnsavedWork :dirty="dirty" :elsewhere="elsewhere" @take="take" />
    <ol class="mt-3 max-w-[1080px]">
      <li
        v-for="(line, i) in lines"
        :key="i"
        class="grid grid-cols-[28px_220px_minmax(0,1fr)_190px_auto] items-start gap-x-4 border-b border-hair py-2.5 max-[899px]:grid-cols-[28px_minmax(0,1fr)] max-[899px]:[&>*:not(:first-child)]:col-start-2"
        data-territory
      >
        <span class="pt-1 text-right text-[13px] text-ink2">{{ i + 1 }}</span>
        <input
          v-if="editable"
          class="entry w-full font-serif text-[16px]!"
          :value="line.name"
          maxlength="200"
          placeholder="Territory name"
          :aria-label="`Territory name ${i + 1}`"
          @input="set(i, { name: ($event.target as HTMLInputElement).value })"
        /><b v-else class="font-serif text-[17px] font-medium">{{ line.name }}</b>
        <div class="min-w-0">
          <FilterSentence
            v-if="editable"
            :group="line.filter"
            object="company"
            heading="Companies where"
            @set="set(i, { filter: $event })"
          /><ConditionGroup
            v-else
            :group="line.filter"
            object="company"
            :editable="false"
            :open-word="null"
            subject="the"
            heading="Companies where"
          />
        </div>
        <label class="quiet"
          >Covered by<br /><select
            v-if="editable"
            class="entry w-full"
            :value="line.personId"
            @change="set(i, { personId: ($event.target as HTMLSelectElement).value })"
          >
            <option v-for="person in people" :key="person.id" :value="person.id">{{ person.name }}</option></select
          ><b v-else class="text-ink">{{ store.personName(line.personId) }}</b></label
        >
        <span v-if="editable" class="flex gap-1 pt-4"
          ><button
            type="button"
            class="button px-2! py-0.5!"
            :disabled="i === 0"
            :aria-label="`Move ${line.name} up`"
            @click="move(i, -1)"
          >
            ↑</button
          ><button
            type="button"
            class="button px-2! py-0.5!"
            :disabled="i === lines.length - 1"
            :aria-label="`Move ${line.name} down`"
            @click="move(i, 1)"
          >
            ↓</button
          ><button
            type="button"
            class="button px-2! py-0.5!"
            :aria-label="`Remove ${line.name}`"
            @click="lines = lines.filter((_, at) => at !== i)"
          >
            ×
          </button></span
        >
      </li>
    </ol>
    <p v-if="lines.length === 0" class="mt-16 text-center font-serif text-[20px]">
      No territories yet. <button v-if="editable" type="button" class="word" @click="add">Create one</button>
    </p>
    <p v-else-if="dirty" class="quiet mt-2" aria-live="polite">Not saved</p>
  </div>
</template>
