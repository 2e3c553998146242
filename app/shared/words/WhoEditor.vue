<script setup lang="ts">
import { count } from '#core/language/counts'
import { teamsOf, WHO_WAYS, WHO_WORDS, type Who, type WhoWay } from '#core/rules/who'
import { useCatalogue } from '~/shared/stores/catalogue'
import ChosenPeople from './ChosenPeople.vue'
import OptionList from './OptionList.vue'

/** Who gets something: the owner, somebody, the next in turn, or the least busy of some. */
const props = defineProps<{
  who: Who | undefined
  owner: boolean
  queue: boolean
  everyone: boolean
  /** Whether it is about a record at all. */ record: boolean
}>()
const emit = defineEmits<{ set: [who: Who] }>()
const store = useCatalogue()
const way = ref<WhoWay>(props.who?.by ?? (props.owner && props.record ? 'owner' : 'person'))
const chosen = ref<string[]>(
  props.who && (props.who.by === 'turn' || props.who.by === 'load') ? [...props.who.people] : [],
)
const options = computed(() =>
  store.catalogue.people
    .filter((person) => person.active)
    .map((person) => ({ value: person.id, label: person.name, hint: person.title })),
)
const ways = computed(() =>
  WHO_WAYS.filter((name) =>
    name === 'owner'
      ? props.owner && props.record
      : name === 'territory'
        ? props.record
        : name === 'queue'
          ? props.queue
          : name === 'everyone'
            ? props.everyone
            : true,
  ),
)
const teams = computed(() =>
  teamsOf(store.catalogue).map((team) => ({
    value: team,
    label: team,
    hint: count(store.catalogue.people.filter((person) => person.active && person.team === team).length, 'person'),
  })),
)
function choose(next: WhoWay): void {
  way.value = next
  if (next === 'owner' || next === 'territory') emit('set', { by: next })
}
function add(id: string): void {
  if (!chosen.value.includes(id)) chosen.value = [...chosen.value, id]
}
</script>

<template>
  <div role="group" aria-label="How to choose the person" class="mb-2 flex flex-wrap gap-1.5">
    <button
      v-for="one in ways"
      :key="one"
      type="button"
      class="button py-0.5!"
      :class="way === one && 'bg-violet-t'"
      :aria-pressed="way === one"
      @click="choose(one)"
    >
      {{ WHO_WORDS[one] }}
    </button>
  </div>
  <OptionList
    v-if="way === 'person'"
    :options="options"
    label="Person"
    :current="who?.by === 'person' ? who.person : null"
    placeholder="Search people"
    @pick="emit('set', { by: 'person', person: $event })"
  />
  <OptionList
    v-else-if="way === 'queue' || way === 'everyone'"
    :key="way"
    :options="teams"
    label="Team"
    :current="who?.by === way ? who.team : null"
    placeholder="Search teams"
    @pick="emit('set', { by: way, team: $event })"
  />
  <p v-else-if="way === 'territory'" class="quiet">
    The person who covers the company’s territory. Manage territories under
    <NuxtLink to="/territories" class="word">People</NuxtLink>.
  </p>
  <template v-else-if="way !== 'owner'">
    <ChosenPeople v-model="chosen" />
    <OptionList
      :key="way"
      :options="options.filter((option) => !chosen.includes(option.value))"
      label="People"
      placeholder="Add people"
      @pick="add"
    />
    <p class="mt-2 flex items-baseline gap-3">
      <button
        type="button"
        class="button main"
        :disabled="chosen.length === 0"
        @click="emit('set', { by: way === 'turn' ? 'turn' : 'load', people: chosen })"
      >
        Save</button
      ><span class="quiet">{{
        way === 'turn'
          ? 'Takes turns. Skips anyone who is away.'
          : 'The person with the fewest open tasks. If tied, the first in the list.'
      }}</span>
    </p>
  </template>
</template>
