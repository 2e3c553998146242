<script setup lang="ts">
import { capital } from '#core/language/nouns'
import { count, plural } from '#core/language/counts'
import { OBJECT_WORDS, type RecordRef } from '#core/records/kinds'
import type { MergePreview } from '~~/server/views/gone'
import type { RecordPage } from '~~/server/views/record'
import { focusSoon } from '~/shared/keys/focus'
import { objectPath, recordPath } from '~/shared/paths'
import { read, send, attempt } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { bringRecordBack } from '~/shared/record/bringBack'
import { useNotices } from '~/shared/stores/notices'
import PopOver from '~/shared/words/PopOver.vue'
import RecordPicker from '~/shared/record/RecordPicker.vue'

/**
 * What can be done with a record as a whole: delete it, or merge another one of its kind into it. Both can be taken
 * back.
 */
const props = defineProps<{ page: RecordPage }>()
const emit = defineEmits<{
  changed: []
  /** It is being deleted from here, or not after all: nobody needs to read it meanwhile. */ leaving: [leaving: boolean]
}>()
const path = computed(() => `/api/v1/records/${props.page.ref.object}/${props.page.ref.id}`)
const kind = computed(() => OBJECT_WORDS[props.page.ref.object].one)
const name = computed(() => String(props.page.values.name ?? ''))

const deleting = ref(false)
async function remove(): Promise<void> {
  deleting.value = false
  const gone = props.page.ref
  emit('leaving', true)
  if (!(await attempt(() => send('DELETE', path.value)))) {
    emit('leaving', false)
    return
  }
  useNotices().tell({
    title: `${name.value} deleted`,
    undo: () => void bringRecordBack(gone).then((back) => back && void navigateTo(recordPath(gone))),
  })
  await navigateTo(`/records/${objectPath(gone.object)}`)
}

const merging = ref(false)
const fits = (ref: RecordRef): boolean => ref.object === props.page.ref.object && ref.id !== props.page.ref.id
const other = ref<number | null>(null)
const preview = shallowRef<MergePreview | null>(null)
const take = ref<readonly string[]>([])
async function choose({ id }: RecordRef): Promise<void> {
  other.value = id
  take.value = []
  preview.value = await attempt(() => read<MergePreview>(`${path.value}/merges/${id}`))
}
const takes = (key: string): boolean => take.value.includes(key)
const uses = (field: MergePreview['fields'][number], side: 'kept' | 'other'): boolean =>
  (field.from === 'other' || takes(field.key) ? 'other' : 'kept') === side
function use(key: string, side: 'kept' | 'other'): void {
  take.value =
    side === 'other' ? [...take.value.filter((one) => one !== key), key] : take.value.filter((one) => one !== key)
}
function begin(): void {
  other.value = null
  preview.value = null
  merging.value = true
}
function close(): void {
  merging.value = false
  deleting.value = false
  void nextTick(() => document.querySelector<HTMLElement>('[data-doings] button')?.focus())
}
const merge = once(async (): Promise<void> => {
  const id = other.value
  if (id === null || !(await attempt(() => send('POST', `${path.value}/merges`, { other: id, take: take.value }))))
    return
  const into = name.value
  useNotices().tell({
    title: `${preview.value?.name ?? ''} merged into ${into}`,
    undo: () => void bringRecordBack({ object: props.page.ref.object, id }).then((back) => back && emit('changed')),
  })
  close()
  emit('changed')
})
</script>

<template>
  <p data-doings class="mb-2 flex gap-4 text-[13px]">
    <button type="button" class="text-ink2 hover:text-ink" data-merge @click="begin">Merge with…</button>
    <button type="button" class="text-ink2 hover:text-ink" data-delete @click="deleting = true">Delete</button>
    <a
      v-if="page.ref.object === 'contact'"
      class="text-ink2 hover:text-ink"
      :href="`/api/v1/people-data/${page.ref.id}`"
      :download="`${name}.json`"
      data-everything
      >Export everything</a
    >
    <PopOver v-if="deleting" anchor="[data-delete]" :label="`Delete ${name}`" @close="close">
      <p class="font-serif text-[16px]">Delete {{ name }}?</p>
      <p class="quiet mt-1">
        It disappears from lists, boards and counts, and its links are removed.
        {{
          page.ahead.length > 0
            ? `${count(page.ahead.length, 'openTask')} ${plural(page.ahead.length, 'stays', 'stay')} on Day sheets. `
            : ''
        }}Its history is kept and you can restore it.
      </p>
      <p class="mt-2 flex gap-2">
        <button
          type="button"
          class="button main"
          @click="remove"
          @vue:mounted="({ el }: { readonly el: unknown }) => focusSoon(el)"
        >
          Delete</button
        ><button type="button" class="button" @click="close">Cancel</button>
      </p>
    </PopOver>
    <PopOver v-if="merging" anchor="[data-merge]" label="Merge" :wide="preview !== null" @close="close">
      <RecordPicker
        v-if="!preview"
        :label="`${capital(kind)} to merge into this one`"
        placeholder="Search by name"
        :fits="fits"
        :hint="(ref) => `${capital(kind)} ${ref.id}`"
        @pick="choose"
      />
      <form v-else @submit.prevent="merge">
        <p class="font-serif text-[16px]">Merge {{ preview.name }} into {{ name }}</p>
        <p class="quiet mt-0.5">
          {{ count(preview.links, 'link') }} and {{ count(preview.tasks, 'task') }} move to {{ name }}. The history of
          both is shown together.
        </p>
        <table v-if="preview.fields.length" class="list mt-2 w-full table-fixed" aria-label="Values after merging">
          <thead>
            <tr>
              <th class="w-28 text-left">Field</th>
              <th class="text-left">{{ name }}</th>
              <th class="text-left">{{ preview.name }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="field in preview.fields" :key="field.key">
              <td class="truncate">{{ field.label }}</td>
              <td v-for="side in ['kept', 'other'] as const" :key="side" class="truncate" :title="field[side]">
                <label class="flex min-w-0 items-baseline gap-1"
                  ><input
                    type="radio"
                    :name="`merge-${field.key}`"
                    :checked="uses(field, side)"
                    :disabled="field.from === 'other' || (side === 'other' && field.other === 'empty')"
                    :aria-label="`${field.label}: ${field[side]}`"
                    @change="use(field.key, side)"
                  /><span class="min-w-0 truncate" :class="uses(field, side) ? 'font-semibold' : 'text-ink2'">{{
                    field[side]
                  }}</span></label
                >
              </td>
            </tr>
          </tbody>
        </table>
        <p v-else class="mt-2">All fields have the same values.</p>
        <p class="mt-3 flex gap-2">
          <button type="submit" class="button main" @vue:mounted="({ el }: { readonly el: unknown }) => focusSoon(el)">
            Merge</button
          ><button type="button" class="button" @click="preview = null">Choose another</button
          ><button type="button" class="button" @click="close">Cancel</button>
        </p>
      </form>
    </PopOver>
  </p>
</template>
