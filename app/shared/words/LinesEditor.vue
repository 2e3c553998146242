<script setup lang="ts">
/** Several texts at once: typed or pasted, one a line. */
const props = defineProps<{ lines: readonly string[]; what: string }>()
const emit = defineEmits<{ set: [lines: string[]] }>()
const text = ref(props.lines.join('\n'))
const box = useTemplateRef<HTMLTextAreaElement>('box')
onMounted(() => void nextTick(() => requestAnimationFrame(() => box.value?.focus())))
const apply = () =>
  emit('set', [
    ...new Set(
      text.value
        .split(/\r?\n/)
        .map((line) => line.trim())
        .filter(Boolean),
    ),
  ])
</script>

<template>
  <form @submit.prevent="apply">
    <label class="quiet block"
      >{{ what
      }}<textarea ref="box" v-model="text" class="entry mt-1 w-full" rows="5" @keydown.ctrl.enter.prevent="apply" />
    </label>
    <p class="mt-2 flex items-center justify-between">
      <button class="button" type="submit">Save</button
      ><span class="quiet"><kbd>Ctrl Enter</kbd> to save, <kbd>Esc</kbd> to cancel</span>
    </p>
  </form>
</template>
