<script setup lang="ts">
import type { ObjectKind, RecordRef } from '#core/records/kinds'
import { recordPath } from '~/shared/paths'
import { attempt, send } from '~/shared/api/api'
import { goTo } from '~/shared/goTo'
import { once } from '~/shared/api/once'
import { useCatalogue } from '~/shared/stores/catalogue'

/** A record that is begun with its name, and then opened. */
const props = defineProps<{ object: ObjectKind }>()
defineEmits<{ close: [] }>()
const store = useCatalogue()
const name = ref('')
const stage = ref(store.catalogue.pipelines[0]?.stages[0]?.id ?? '')
const create = once(async (): Promise<void> => {
  const values = {
    name: name.value,
    owner: store.me?.id ?? null,
    ...(props.object === 'deal' ? { stage: stage.value } : {}),
  }
  const made = await attempt(() => send<{ ref: RecordRef }>('POST', `/api/v1/records/${props.object}`, { values }))
  if (made) await goTo(recordPath(made.ref))
})
</script>

<template>
  <form
    class="mt-2 flex items-center gap-2 rounded-[3px] bg-paper2 p-2"
    @submit.prevent="create"
    @keydown.escape="$emit('close')"
  >
    <input
      v-model="name"
      class="entry flex-1"
      required
      maxlength="500"
      placeholder="Name"
      aria-label="Name"
      @vue:mounted="($event.el as HTMLElement).focus()"
    />
    <select v-if="object === 'deal'" v-model="stage" class="entry" aria-label="Stage">
      <optgroup v-for="pipeline in store.catalogue.pipelines" :key="pipeline.id" :label="pipeline.name">
        <option v-for="one in pipeline.stages" :key="one.id" :value="one.id">{{ one.name }}</option>
      </optgroup>
    </select>
    <button type="submit" class="button main">Create</button>
    <button type="button" class="button" @click="$emit('close')">Cancel</button>
  </form>
</template>
