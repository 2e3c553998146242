<script setup lang="ts">
/** Some of several, in their order; none of them means any. */
const props = defineProps<{
  chosen: readonly number[]
  options: readonly { readonly value: number; readonly label: string }[]
  none: string
}>()
const emit = defineEmits<{ set: [chosen: number[]] }>()
const some = ref<number[]>([...props.chosen])
const toggle = (value: number): void => {
  some.value = some.value.includes(value) ? some.value.filter((one) => one !== value) : [...some.value, value]
}
</script>

<template>
  <form
    @submit.prevent="
      emit(
        'set',
        options.map((one) => one.value).filter((one) => some.includes(one)),
      )
    "
  >
    <fieldset class="grid grid-cols-2 gap-x-4 gap-y-1">
      <legend class="sr-only">{{ none }}, or only</legend>
      <label v-for="(one, i) in options" :key="one.value" class="flex items-center gap-1.5"
        ><input
          type="checkbox"
          :checked="some.includes(one.value)"
          :data-first="i === 0 ? '' : undefined"
          @change="toggle(one.value)"
          @vue:mounted="i === 0 && ($event.el as HTMLElement).focus()"
        />
        {{ one.label }}</label
      >
    </fieldset>
    <p class="mt-2 flex gap-2">
      <button class="button main" type="submit">{{ some.length === 0 ? none : 'Save' }}</button><button
        v-if="some.length > 0"
        class="button"
        type="button"
        @click="emit('set', [])"
      >
        {{ none }}
      </button>
    </p>
  </form>
</template>
