<script setup lang="ts">
import AppDialog from '~/shared/dialog/AppDialog.vue'

const open = defineModel<boolean>('open', { required: true })
const groups = [
  {
    name: 'Everywhere',
    keys: [
      ['Ctrl K', 'find a record, a rule or a screen'],
      ['?', 'this list'],
      ['Esc', 'close, leaving things as they are'],
    ],
  },
  {
    name: 'Day sheet',
    keys: [
      ['↑ ↓', 'the task before, the next'],
      ['D', 'done'],
      ['O', 'done, with an outcome'],
      ['L', 'later'],
      ['H', 'hand over'],
      ['U', 'undo the last'],
    ],
  },
  {
    name: 'Board',
    keys: [
      ['← → ↑ ↓', 'go from deal to deal'],
      ['Shift ← →', 'move the deal to the stage beside'],
      ['Enter', 'open the deal'],
    ],
  },
  {
    name: 'Rule sheet',
    keys: [
      ['Tab', 'next underlined word'],
      ['Enter', 'edit the word'],
      ['/', 'add a step'],
      ['Alt ↑ ↓', 'move the step'],
      ['Ctrl C, X, V', 'copy, cut, paste the step as text'],
      ['Delete', 'remove the line'],
      ['Ctrl Z, Ctrl Y', 'undo, redo'],
    ],
  },
] as const
</script>

<template>
  <AppDialog v-if="open" title="Keys" :width="760" @close="open = false">
    <div class="mt-4 grid grid-cols-2 gap-x-10 gap-y-5">
      <section v-for="group in groups" :key="group.name">
        <h3 class="part">{{ group.name }}</h3>
        <dl class="mt-1 grid grid-cols-[110px_1fr] gap-y-1 text-[13.5px]">
          <template v-for="[key, does] in group.keys" :key="key"
            ><dt>
              <kbd>{{ key }}</kbd>
            </dt>
            <dd>{{ does }}</dd></template
          >
        </dl>
      </section>
    </div>
    <button type="button" class="button mt-6" data-first @click="open = false">Close</button>
  </AppDialog>
</template>
