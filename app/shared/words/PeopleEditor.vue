<script setup lang="ts">
import { useCatalogue } from '~/shared/stores/catalogue'
import ChosenPeople from './ChosenPeople.vue'
import OptionList from './OptionList.vue'

/** Some people, in the order in which they were chosen. */
const props = defineProps<{ people: readonly string[]; none: string }>()
const emit = defineEmits<{ set: [people: string[]] }>()
const store = useCatalogue()
const chosen = ref<readonly string[]>([...props.people])
const options = computed(() =>
  store.catalogue.people
    .filter((one) => one.active && !chosen.value.includes(one.id))
    .map((one) => ({ value: one.id, label: one.name, hint: one.title })),
)
function pick(id: string): void {
  chosen.value = [...chosen.value, id]
}
</script>

<template>
  <ChosenPeople v-model="chosen" />
  <p v-if="chosen.length === 0" class="quiet mb-2">Chosen: {{ none }}</p>
  <OptionList :key="chosen.length" :options="options" label="Person" placeholder="Search people" @pick="pick" />
  <p class="mt-2"><button type="button" class="button main" @click="emit('set', [...chosen])">Save</button></p>
</template>
