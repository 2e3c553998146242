<script setup lang="ts">
import {
  Combobox,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
  Dialog,
  DialogPanel,
  DialogTitle,
} from '@headlessui/vue'
import { OBJECT_WORDS } from '#core/records/kinds'
import { foldText } from '#core/language/value'
import { recordPath } from '~/shared/paths'
import { useFound } from '~/shared/record/useFound'
import { useCatalogue } from '~/shared/stores/catalogue'

interface Line {
  readonly to: string
  readonly name: string
  readonly what: string
}

const open = defineModel<boolean>('open', { required: true })
const store = useCatalogue()
const { words, found } = useFound()
const lines = computed((): Line[] => [
  ...found.value.records.map((record) => ({
    to: recordPath(record.ref),
    name: record.name,
    what: OBJECT_WORDS[record.ref.object].one,
  })),
  ...found.value.rules.map((rule) => ({ to: `/rules/${rule.id}`, name: rule.name, what: `Rule, ${rule.state}` })),
])

const screens = computed((): Line[] => [
  { to: '/day-sheet', name: 'Day sheet', what: 'Screen' },
  { to: '/rules', name: 'Rules', what: 'Screen' },
  { to: '/rules?new=1', name: 'New rule', what: 'Action' },
  { to: '/journal', name: 'Journal', what: 'Screen' },
  { to: '/fields', name: 'Fields', what: 'Screen' },
  { to: '/data', name: 'Import data', what: 'Action' },
  { to: '/account', name: 'Account and API keys', what: 'Screen' },
  { to: '/reference', name: 'API reference', what: 'Screen' },
  ...store.catalogue.pipelines.map((pipeline) => ({
    to: `/boards/${pipeline.id}`,
    name: `Board: ${pipeline.name}`,
    what: 'Screen',
  })),
  ...(['deals', 'contacts', 'companies'] as const).map((path) => ({
    to: `/records/${path}`,
    name: `Records: ${path}`,
    what: 'Screen',
  })),
])
const list = computed(() =>
  [...lines.value, ...screens.value.filter((screen) => foldText(screen.name).includes(foldText(words.value)))].slice(
    0,
    14,
  ),
)

watch(open, (now) => {
  if (now) words.value = ''
})
async function go(item: Line | null): Promise<void> {
  if (!item) return
  open.value = false
  await navigateTo(item.to)
}
</script>

<template>
  <Dialog :open="open" class="relative z-50" @close="open = false">
    <div class="fixed inset-0 bg-black/30" aria-hidden="true" />
    <div class="fixed inset-x-0 top-24 grid justify-center">
      <DialogPanel class="pop w-[560px] p-3">
        <DialogTitle class="sr-only">Search</DialogTitle>
        <Combobox :model-value="null" nullable @update:model-value="go">
          <ComboboxInput
            class="entry w-full text-[16px]!"
            placeholder="Search records, rules and screens"
            aria-label="Search"
            @change="words = $event.target.value"
          />
          <ComboboxOptions static class="mt-2 max-h-[420px] overflow-auto">
            <ComboboxOption
              v-for="item in list"
              :key="item.to + item.name"
              v-slot="{ active }"
              :value="item"
              as="template"
            >
              <li
                class="flex cursor-pointer justify-between gap-4 rounded-[3px] px-2 py-1"
                :class="active && 'bg-violet-t'"
              >
                <span class="truncate">{{ item.name }}</span><span class="quiet">{{ item.what }}</span>
              </li>
            </ComboboxOption>
            <li v-if="list.length === 0" class="quiet px-2 py-1">No matches.</li>
          </ComboboxOptions>
        </Combobox>
      </DialogPanel>
    </div>
  </Dialog>
</template>
