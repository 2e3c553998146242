<script setup lang="ts">
import { TELLING_TIME_WORDS, TELLING_TIMES, TELLING_WAYS, TELLING_WORDS } from '#core/telling/telling'
import { readMinute, sayMinute } from '#core/time/moments'
import { attempt, send } from '~/shared/api/api'
import { useSpoken } from '~/shared/keys/useSpoken'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

/** Where one is told what rules notify one of, and how often. */
const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']
const { say } = useSpoken()
const { data, refresh } = await useLiveQuery('/api/v1/account/notifications')
const form = reactive({ by: 'app', often: 'now', at: '08:00', weekday: 1, daysOff: false, chat: '' })
const muted = ref<readonly string[]>([])
const saved = ref(false)
watch(
  data,
  (now) => {
    if (!now) return
    const { by, often, minute, weekday, daysOff } = now
    Object.assign(form, { by, often, weekday, daysOff, chat: '', at: sayMinute(minute).padStart(5, '0') })
    muted.value = now.muted
  },
  { immediate: true },
)
watch([form, muted], () => (saved.value = false))
function toggle(kind: string): void {
  muted.value = muted.value.includes(kind) ? muted.value.filter((one) => one !== kind) : [...muted.value, kind]
}
async function save(): Promise<void> {
  const { by, often, at, weekday, daysOff, chat } = form
  const minute = readMinute(at) ?? 480
  const body = { by, often, minute, weekday, daysOff, muted: muted.value, ...(chat && { chat }) }
  if (!(await attempt(() => send('PUT', '/api/v1/account/notifications', body)))) return
  await refresh()
  await nextTick()
  saved.value = true
  say('Saved.')
}
</script>

<template>
  <section aria-labelledby="telling-title">
    <h2 id="telling-title">Notifications</h2>
    <p class="quiet mt-1">What rules notify you of always stands under Notifications. You can have it sent as well.</p>
    <form class="mt-2 flex flex-wrap items-end gap-x-4 gap-y-2" data-telling @submit.prevent="save">
      <label
        ><span class="quiet block">Where</span
        ><select v-model="form.by" class="entry">
          <option v-for="way in TELLING_WAYS" :key="way" :value="way">{{ TELLING_WORDS[way] }}</option>
        </select></label
      >
      <template v-if="form.by !== 'app'">
        <label v-if="form.by === 'chat'" class="min-w-64 flex-1"
          ><span class="quiet block">Chat address{{ data?.hasChat ? ' (kept; enter another to replace it)' : '' }}</span
          ><input
            v-model.trim="form.chat"
            type="url"
            class="entry w-full"
            maxlength="1000"
            placeholder="https://"
            :required="!data?.hasChat"
        /></label>
        <label
          ><span class="quiet block">How often</span
          ><select v-model="form.often" class="entry">
            <option v-for="time in TELLING_TIMES" :key="time" :value="time">{{ TELLING_TIME_WORDS[time] }}</option>
          </select></label
        >
        <label v-if="form.often === 'week'"
          ><span class="quiet block">On</span
          ><select v-model.number="form.weekday" class="entry">
            <option v-for="(day, i) in DAYS" :key="day" :value="i + 1">{{ day }}</option>
          </select></label
        >
        <label v-if="form.often !== 'now'"
          ><span class="quiet block">At</span><input v-model="form.at" type="time" class="entry" required
        /></label>
        <label class="flex items-center gap-2 pb-1.5"
          ><input v-model="form.daysOff" type="checkbox" />On days off too</label
        >
      </template>
      <fieldset v-if="form.by !== 'app' && data && data.kinds.length > 0" class="w-full">
        <legend class="quiet">Tell me of these problems too</legend>
        <div class="flex flex-wrap gap-x-5 gap-y-1.5">
          <label v-for="one in data.kinds" :key="one.kind" class="flex min-h-6 items-center gap-2"
            ><input type="checkbox" :checked="!muted.includes(one.kind)" @change="toggle(one.kind)" />{{
              one.title
            }}</label
          >
        </div>
      </fieldset>
      <button type="submit" class="button">{{ saved ? 'Saved' : 'Save' }}</button>
    </form>
  </section>
</template>
