<script setup lang="ts">
import { count, plural } from '#core/language/counts'
import AppDialog from '~/shared/dialog/AppDialog.vue'

/** A rule is switched off or archived while runs wait in it: they finish, or end. */
const props = defineProps<{ ruleId: number; waiting: number }>()
const emit = defineEmits<{ choose: [waiting: 'finish' | 'end']; close: [] }>()
const them = computed(() => (props.waiting === 1 ? 'it' : 'them'))
</script>

<template>
  <AppDialog title="Runs are waiting" role="alertdialog" data-leaving @close="emit('close')">
    <p class="mt-2">
      <b class="font-semibold">{{ count(waiting, 'run') }}</b> {{ plural(waiting, 'is', 'are') }} waiting in this rule.
      <NuxtLink :to="`/ahead?rule=${ruleId}`" class="word">Show in Ahead</NuxtLink>
    </p>
    <p class="mt-4 flex flex-wrap gap-2">
      <button type="button" class="button main" data-first @click="emit('choose', 'finish')">
        Let {{ them }} finish
      </button>
      <button type="button" class="button" @click="emit('choose', 'end')">End {{ them }} now</button>
      <button type="button" class="button" @click="emit('close')">Cancel</button>
    </p>
  </AppDialog>
</template>
