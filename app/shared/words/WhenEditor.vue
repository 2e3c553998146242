<script setup lang="ts">
import type { ObjectKind } from '#core/records/kinds'
import { checkWhen, SIDES, WHEN_WAYS, type Side, type When } from '#core/rules/when'
import { MOMENT_UNITS, readMinute, sayMinute, UNIT_WORDS, type MomentUnit } from '#core/time/moments'
import { sayProblem } from '#core/language/problems'
import { selectSoon } from '~/shared/keys/focus'
import { useHere } from './useHere'

/** A later moment: so long from now, before or after a date of the record, or when certain hours begin. */
const props = defineProps<{
  when: When | undefined
  object: ObjectKind
  none: string | null
  /** Only the day counts, and no time of it. */ dateOnly?: boolean | undefined
  /** Only some of the ways to say it. */ ways?: readonly When['at'][] | undefined
}>()
const emit = defineEmits<{ set: [when: When | undefined] }>()
const here = useHere()
const WORDS = { after: 'After a time', field: 'By a date field', hours: 'Within hours' } as const
const offered = computed(() => props.ways ?? WHEN_WAYS)
const way = ref<When['at']>(props.when?.at ?? offered.value[0] ?? 'after')
const amount =
  props.when && props.when.at !== 'hours' ? props.when.amount : { count: 2, unit: 'workdays' as MomentUnit }
const count = ref(String(amount.count))
const unit = ref<MomentUnit>(amount.unit)
const minute = ref(
  props.when && props.when.at !== 'hours' && props.when.minute !== null
    ? sayMinute(props.when.minute)
    : props.when?.at === 'field' || props.when === undefined
      ? '9:00'
      : '',
)
const side = ref<Side>(props.when?.at === 'field' ? props.when.side : 'before')
const field = ref<string | null>(props.when?.at === 'field' ? props.when.field : null)
const from = ref(sayMinute(props.when?.at === 'hours' ? props.when.from : 540))
const to = ref(sayMinute(props.when?.at === 'hours' ? props.when.to : 1020))
const workdays = ref(props.when?.at === 'hours' ? props.when.workdays : true)
const dates = computed(() =>
  here.value.fields(props.object).filter((one) => one.type === 'date' || one.type === 'dateTime'),
)
const exact = computed(() => unit.value === 'minutes' || unit.value === 'hours')
const made = computed((): When | null => {
  const n = Number(count.value)
  const whole = Number.isInteger(n) && n >= 0 && n <= 100_000 && count.value.trim() !== ''
  const at = props.dateOnly || minute.value.trim() === '' ? null : readMinute(minute.value)
  if (minute.value.trim() !== '' && at === null) return null
  if (way.value === 'hours') {
    const [begins, ends] = [readMinute(from.value), readMinute(to.value)]
    return begins === null || ends === null ? null : { at: 'hours', from: begins, to: ends, workdays: workdays.value }
  }
  if (!whole) return null
  if (way.value === 'after')
    return { at: 'after', amount: { count: n, unit: unit.value }, minute: exact.value ? null : at }
  return { at: 'field', field: field.value, side: side.value, amount: { count: n, unit: unit.value }, minute: at }
})
const wrong = computed(() => {
  if (!made.value) return 'Enter whole numbers, and times such as 8:30.'
  const problem = checkWhen(made.value, props.object, here.value)
  return problem ? sayProblem(problem) : ''
})
</script>

<template>
  <form @submit.prevent="made && !wrong && emit('set', made)">
    <div role="group" aria-label="How to set the time" class="mb-2 flex flex-wrap gap-1.5">
      <button
        v-if="none !== null"
        type="button"
        class="button py-0.5!"
        :aria-pressed="when === undefined"
        @click="emit('set', undefined)"
      >
        {{ none }}
      </button>
      <button
        v-for="one in offered.length > 1 ? offered : []"
        :key="one"
        type="button"
        class="button py-0.5!"
        :class="way === one && 'bg-saffron-t'"
        :aria-pressed="way === one"
        @click="way = one"
      >
        {{ WORDS[one] }}
      </button>
    </div>
    <template v-if="way !== 'hours'">
      <div class="flex gap-2">
        <template v-if="way === 'after' || side !== 'on'"
          ><input
            v-model="count"
            class="entry w-20"
            inputmode="numeric"
            aria-label="Number"
            @vue:mounted="({ el }: { readonly el: unknown }) => selectSoon(el)"
          /><select v-model="unit" class="entry min-w-0 flex-1" aria-label="Unit">
            <option v-for="one in MOMENT_UNITS" :key="one" :value="one">{{ UNIT_WORDS[one] }}</option>
          </select></template
        >
        <select v-if="way === 'field'" v-model="side" class="entry" aria-label="Before or after">
          <option v-for="one in SIDES" :key="one" :value="one">{{ one }}</option>
        </select>
      </div>
      <select v-if="way === 'field'" v-model="field" class="entry mt-2 w-full" aria-label="Date field">
        <option :value="null">Choose a date field</option>
        <option v-for="one in dates" :key="one.key" :value="one.key">{{ one.label }}</option>
      </select>
      <label v-if="!dateOnly && (!exact || way === 'field')" class="quiet mt-2 block"
        >At <input v-model="minute" class="entry w-20" />
        <span v-if="way === 'after'">Leave empty to keep the time of day.</span></label
      >
    </template>
    <div v-else class="flex flex-wrap items-center gap-2">
      Between
      <input
        v-model="from"
        class="entry w-20"
        aria-label="From"
        @vue:mounted="({ el }: { readonly el: unknown }) => selectSoon(el)"
      />
      and <input v-model="to" class="entry w-20" aria-label="To" /><label class="flex items-center gap-1.5"
        ><input v-model="workdays" type="checkbox" /> Working days only</label
      >
    </div>
    <p v-if="wrong" class="mt-1 text-brick" role="alert">{{ wrong }}</p>
    <p class="mt-2"><button class="button main" type="submit" :disabled="!made || wrong !== ''">Save</button></p>
  </form>
</template>
