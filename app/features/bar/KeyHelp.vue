<script setup lang="ts">
import { SHORTCUT_WAYS, useShortcutWay } from '~/shared/keys/useKeys'
import AppDialog from '~/shared/dialog/AppDialog.vue'

const open = defineModel<boolean>('open', { required: true })
const route = useRoute()
const GROUPS = [
  {
    name: 'Everywhere',
    on: '',
    keys: [
      ['Ctrl K', 'Search records, rules and screens'],
      ['F6', 'Next part of the page'],
      ['?', 'Show this list'],
      ['Esc', 'Close without saving'],
    ],
  },
  {
    name: 'Day sheet',
    on: '/day-sheet',
    keys: [
      ['↑ ↓', 'Previous or next task'],
      ['D', 'Done'],
      ['O', 'Done with outcome'],
      ['L', 'Postpone'],
      ['H', 'Hand over'],
      ['P', 'Take task from queue'],
      ['B', 'Return task to queue'],
      ['U', 'Undo last action'],
    ],
  },
  {
    name: 'Board',
    on: '/boards',
    keys: [
      ['← → ↑ ↓', 'Move between deals'],
      ['Shift ← →', 'Move deal to the previous or next stage'],
      ['Enter', 'Open deal'],
    ],
  },
  {
    name: 'Rules',
    on: '/rules',
    keys: [['N', 'New rule']],
  },
  {
    name: 'Rule sheet',
    on: '/rules/',
    keys: [
      ['Tab', 'Next word that can be edited'],
      ['Enter', 'Edit the word'],
      ['W', 'Add trigger'],
      ['I', 'Add condition'],
      ['/', 'Add step'],
      ['Alt ↑ ↓', 'Move step'],
      ['Ctrl C, X, V', 'Copy, cut or paste steps'],
      ['Delete', 'Remove line'],
      ['Ctrl Z, Ctrl Y', 'Undo, redo'],
      ['S', 'Switch on or publish'],
      ['R', 'Rehearse'],
    ],
  },
  {
    name: 'Decision table',
    on: '/rules/',
    keys: [
      ['← → ↑ ↓', 'Move between cells'],
      ['F2', 'Edit inside the cell'],
      ['Alt ↑ ↓', 'Move row'],
      ['Ctrl Delete', 'Remove row'],
    ],
  },
  {
    name: 'Record',
    on: '/records/',
    keys: [
      ['R', 'Rules of this record'],
      ['↑ ↓', 'Previous or next rule'],
    ],
  },
  {
    name: 'Journal',
    on: '/journal',
    keys: [['↑ ↓', 'Previous or next run']],
  },
  {
    name: 'Preflight',
    on: '/preflight',
    keys: [
      ['F', 'Fix'],
      ['L', 'Accept'],
    ],
  },
  {
    name: 'Rehearsal',
    on: '/rehearsal',
    keys: [
      ['R', 'Rehearse'],
      ['J, K', 'Next, previous record'],
    ],
  },
  {
    name: 'Test cases',
    on: '/cases',
    keys: [['R', 'Run all']],
  },
  {
    name: 'Ahead',
    on: '/ahead',
    keys: [
      ['↑ ↓', 'Previous or next line'],
      ['E', 'End'],
      ['L', 'Postpone'],
      ['N', 'Run now'],
    ],
  },
] as const
/** What works on this page stands first. */
const groups = computed(() => {
  const here = GROUPS.filter(({ on }) => on !== '' && route.path.startsWith(on)).sort(
    (a, b) => b.on.length - a.on.length,
  )
  return [...here, ...GROUPS.filter((group) => !here.includes(group))]
})
const way = useShortcutWay()
const WAY_WORDS = { on: 'On', alt: 'With Alt', off: 'Off' } as const
</script>

<template>
  <AppDialog v-if="open" title="Keyboard shortcuts" :width="760" @close="open = false">
    <!-- Beside the title: with the focus below, the keys of this page would be scrolled away. -->
    <button type="button" class="button float-right -mt-6" data-first @click="open = false">Close</button>
    <div class="clear-both mt-4 grid grid-cols-2 gap-x-10 gap-y-5 max-[639px]:grid-cols-1">
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
    <fieldset class="mt-5 flex flex-wrap items-center gap-4">
      <legend class="part mb-1">Single-letter shortcuts</legend>
      <label v-for="one in SHORTCUT_WAYS" :key="one" class="flex items-center gap-1.5"
        ><input v-model="way" type="radio" name="shortcut-way" :value="one" />{{ WAY_WORDS[one] }}</label
      >
    </fieldset>
  </AppDialog>
</template>
