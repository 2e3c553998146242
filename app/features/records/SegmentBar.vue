<script setup lang="ts">
import { OBJECT_WORDS, type ObjectKind } from '#core/records/kinds'
import type { SegmentLine } from '~~/server/views/segments'
import { useCatalogue } from '~/shared/stores/catalogue'

/** The saved filters of a kind of record, each with how many are in it now; what is looked at can be kept as one. */
const props = defineProps<{
  object: ObjectKind
  segments: readonly SegmentLine[]
  current: number | null
  /** Whether what is looked at differs from the segment. */ changed: boolean
  /** Whether there is anything to keep. */ something: boolean
}>()
const emit = defineEmits<{
  choose: [segment: SegmentLine | null]
  save: [name: string]
  keep: []
  rename: [name: string]
  remove: []
}>()
const store = useCatalogue()
const naming = ref<'new' | 'rename' | null>(null)
const name = ref('')
const sure = ref(false)
const segment = computed(() => props.segments.find((one) => one.id === props.current) ?? null)
watch(
  () => props.current,
  () => {
    naming.value = null
    sure.value = false
  },
)
function begin(what: 'new' | 'rename'): void {
  name.value = what === 'rename' ? (segment.value?.name ?? '') : ''
  naming.value = what
}
function apply(): void {
  if (naming.value === 'rename') emit('rename', name.value)
  else emit('save', name.value)
  naming.value = null
}
function remove(): void {
  if (sure.value) emit('remove')
  sure.value = !sure.value
}
</script>

<template>
  <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1 text-[13.5px]">
    <nav :aria-label="`Segments for ${OBJECT_WORDS[object].many}`" class="flex flex-wrap items-baseline gap-x-4">
      <button
        type="button"
        class="min-h-6 font-serif text-[15px]"
        :class="current === null ? 'border-b-2 border-ink font-medium' : 'text-ink2 italic hover:text-ink'"
        :aria-pressed="current === null"
        @click="emit('choose', null)"
      >
        All {{ OBJECT_WORDS[object].many }}
      </button>
      <button
        v-for="one in segments"
        :key="one.id"
        type="button"
        class="min-h-6 font-serif text-[15px]"
        :class="one.id === current ? 'border-b-2 border-ink font-medium' : 'text-ink2 italic hover:text-ink'"
        :aria-pressed="one.id === current"
        :data-segment="one.id"
        @click="emit('choose', one)"
      >
        {{ one.name }} <span class="font-sans text-[12px] not-italic">{{ one.count.toLocaleString('en') }}</span>
      </button>
    </nav>
    <template v-if="store.may('build')">
      <form v-if="naming" class="flex items-baseline gap-2" @submit.prevent="apply" @keydown.escape="naming = null">
        <input
          v-model="name"
          class="entry w-52 py-0.5!"
          required
          maxlength="100"
          placeholder="Segment name"
          aria-label="Segment name"
          @vue:mounted="($event.el as HTMLElement).focus()"
        />
        <button type="submit" class="button py-0.5!">{{ naming === 'rename' ? 'Rename' : 'Save' }}</button>
      </form>
      <template v-else>
        <button
          v-if="segment && changed"
          type="button"
          class="quiet underline decoration-hair hover:text-ink"
          @click="emit('keep')"
        >
          Save to “{{ segment.name }}”
        </button>
        <button
          v-if="something && (!segment || changed)"
          type="button"
          class="quiet underline decoration-hair hover:text-ink"
          @click="begin('new')"
        >
          Save as segment…
        </button>
        <template v-if="segment && !changed">
          <button type="button" class="quiet underline decoration-hair hover:text-ink" @click="begin('rename')">
            Rename
          </button>
          <button
            type="button"
            class="quiet underline decoration-hair hover:text-ink"
            @click="remove"
            @blur="sure = false"
          >
            {{ sure ? 'Delete segment (records are kept)' : 'Delete' }}
          </button>
        </template>
      </template>
    </template>
  </div>
</template>
