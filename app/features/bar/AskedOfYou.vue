<script setup lang="ts">
import type { TaskAsks } from '#core/asks'
import type { ObjectKind } from '#core/records/kinds'
import { sayWeekday } from '#core/time/say'
import { attempt, send } from '~/shared/api/api'
import { useUnsent } from '~/shared/asks/unsent'
import { onceReady } from '~/shared/onceReady'
import RefLink from '~/shared/record/RefLink.vue'
import { useNotices } from '~/shared/stores/notices'

const AskForm = onceReady(() => import('~/shared/asks/AskForm.vue'))

/** What waits for the answer of whoever looks, answered right here. */
defineProps<{
  asked: readonly {
    readonly taskId: number
    readonly title: string
    readonly ref: { readonly object: ObjectKind; readonly id: number }
    readonly recordName: string
    readonly ruleName: string
    readonly due: string
    readonly asks: TaskAsks | null
  }[]
}>()
const emit = defineEmits<{ answered: []; leave: [] }>()
const notices = useNotices()
const unsent = useUnsent()
const openId = ref<number | null>(null)

async function answer(taskId: number, title: string, answers: Record<string, unknown>): Promise<void> {
  if (!(await attempt(() => send('POST', `/api/v1/tasks/${taskId}`, { act: 'finish', answers })))) return
  unsent.sent(`task ${taskId}`)
  openId.value = null
  notices.tell({
    title: 'Answer saved',
    text: title,
    undo: () => void attempt(() => send('POST', `/api/v1/tasks/${taskId}`, { act: 'reopen' })),
  })
  emit('answered')
}
</script>

<template>
  <section class="max-h-[46vh] overflow-auto border-b border-hair p-1 pb-2" tabindex="0" aria-labelledby="asked-of-you">
    <h2 id="asked-of-you" class="quiet">Waiting for your answer</h2>
    <ul>
      <li v-for="one in asked" :key="one.taskId" class="py-1" :data-asked="one.taskId">
        <p class="flex items-baseline gap-2">
          <span class="min-w-0 flex-1 font-medium">{{ one.title }}</span><button
            type="button"
            class="button py-0.5!"
            :aria-expanded="openId === one.taskId"
            :aria-label="`${one.asks?.about === 'approval' ? 'Decide' : 'Answer'}: ${one.title}`"
            @click="openId = openId === one.taskId ? null : one.taskId"
          >
            {{ one.asks?.about === 'approval' ? 'Decide' : 'Answer' }}
          </button>
        </p>
        <p class="quiet">
          <template v-if="one.recordName"
            ><RefLink :of="one.ref" class="name-link" @click="emit('leave')">{{ one.recordName }}</RefLink> · </template
          ><i class="font-serif">From rule “{{ one.ruleName }}”</i> · due {{ sayWeekday(one.due) }}
        </p>
        <AskForm
          v-if="openId === one.taskId && one.asks"
          class="mt-1.5"
          :asks="one.asks"
          :of="`task ${one.taskId}`"
          @answer="answer(one.taskId, one.title, $event)"
        />
      </li>
    </ul>
  </section>
</template>
