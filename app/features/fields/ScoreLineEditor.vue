<script setup lang="ts">
import { figure, nounOf } from '#core/language/counts'
import { EMPTY_GROUP } from '#core/conditions/document'
import { linkedKinds } from '#core/conditions/linked'
import { OBJECT_WORDS, type ObjectKind } from '#core/records/kinds'
import type { ScoreLine } from '#core/scoring/card'
import FilterSentence from '~/shared/words/FilterSentence.vue'
import ConditionGroup from '~/shared/words/ConditionGroup.vue'
import { vTyped } from '~/shared/keys/typed'
import { useCatalogue } from '~/shared/stores/catalogue'

/** One line of a scorecard, as a sentence. */
const props = defineProps<{
  line: ScoreLine
  object: ObjectKind
  number: number
  editable: boolean
  /** What it gives all records together, and how many of them. */ gives: {
    readonly points: number
    readonly records: number
  } | null
}>()
const emit = defineEmits<{ set: [line: ScoreLine]; remove: []; move: [by: 1 | -1] }>()
type Doing = Extract<ScoreLine['for'], { what: 'doing' }>
const doing = computed((): Doing | null => (props.line.for.what === 'doing' ? props.line.for : null))
const activities = computed(() => useCatalogue().catalogue.activities)
const sources = computed(() => linkedKinds(props.object).filter((kind) => kind !== 'company'))
function set(change: Partial<ScoreLine>): void {
  emit('set', { ...props.line, ...change })
}
function setDoing(change: Partial<Doing>): void {
  if (doing.value) set({ for: { ...doing.value, ...change } })
}
const valueOf = (event: Event): number => Number((event.target as HTMLInputElement).value)
function fade(how: Doing['fading']['how']): void {
  setDoing({
    fading:
      how === 'never'
        ? { how }
        : { how, days: doing.value && 'days' in doing.value.fading ? doing.value.fading.days : 30 },
  })
}
function setDays(days: number): void {
  const how = doing.value?.fading.how
  if (how === 'half' || how === 'gone') setDoing({ fading: { how, days: Math.max(1, Math.round(days)) } })
}
function turn(what: 'being' | 'doing'): void {
  set({
    for:
      what === 'being'
        ? { what, where: EMPTY_GROUP }
        : { what, kind: 'visit', about: '', from: null, fading: { how: 'never' } },
  })
}
const ENTRY = 'sentence-entry sized min-w-0! px-1! text-[17px]!'
</script>

<template>
  <li
    class="grid grid-cols-[26px_minmax(0,1fr)_120px] gap-x-3 border-b border-hair py-2 max-[499px]:grid-cols-[20px_minmax(0,1fr)_84px]"
    :data-line="line.id"
  >
    <span class="pt-1.5 text-right text-[13px] text-ink2">{{ number }}</span>
    <fieldset class="min-w-0 font-serif text-[17px] leading-[1.95]" :disabled="!editable">
      <label
        ><span class="sr-only">Points of line {{ number }}</span
        ><input
          type="number"
          step="any"
          :class="[ENTRY, 'w-[62px] text-right', line.points < 0 ? 'text-brick!' : 'text-moss!']"
          v-typed="line.points"
          @change="set({ points: valueOf($event) })"
      /></label>
      {{ nounOf(Math.abs(line.points), 'point') }} {{ ' '
      }}<select
        :class="ENTRY"
        :aria-label="`Line ${number}: points for`"
        :value="line.for.what"
        @change="turn(($event.target as HTMLSelectElement).value as 'being' | 'doing')"
      >
        <option value="doing">each time</option>
        <option value="being">if</option>
      </select>
      <template v-if="doing">
        {{ ' '
        }}<select
          :class="ENTRY"
          :aria-label="`Line ${number}: whose activity`"
          :value="doing.from ?? ''"
          @change="setDoing({ from: (($event.target as HTMLSelectElement).value || null) as Doing['from'] })"
        >
          <option value="">the {{ OBJECT_WORDS[object].one }}</option>
          <option v-for="kind in sources" :key="kind" :value="kind">one of its {{ OBJECT_WORDS[kind].many }}</option>
        </select>
        {{ ' '
        }}<select
          :class="ENTRY"
          :aria-label="`Line ${number}: activity`"
          :value="doing.kind"
          @change="setDoing({ kind: ($event.target as HTMLSelectElement).value })"
        >
          <option v-for="one in activities.options('does')" :key="one.value" :value="one.value">{{ one.label }}</option>
        </select>
        with {{ ' '
        }}<input
          :class="[ENTRY, 'w-[120px]']"
          maxlength="200"
          v-typed="doing.about"
          placeholder="anything"
          :aria-label="`Line ${number}: words in the ${activities.words(doing.kind).about}`"
          @change="setDoing({ about: ($event.target as HTMLInputElement).value })"
        />
        in the {{ activities.words(doing.kind).about }}, {{ ' '
        }}<select
          :class="ENTRY"
          :aria-label="`Line ${number}: fading`"
          :value="doing.fading.how"
          @change="fade(($event.target as HTMLSelectElement).value as Doing['fading']['how'])"
        >
          <option value="never">no fading</option>
          <option value="half">half after</option>
          <option value="gone">none after</option>
        </select>
        <template v-if="doing.fading.how !== 'never'"
          >{{ ' '
          }}<input
            type="number"
            min="1"
            max="3650"
            :class="[ENTRY, 'w-[58px] text-right']"
            :aria-label="`Line ${number}: days`"
            v-typed="doing.fading.days"
            @change="setDays(valueOf($event))"
          />
          days</template
        >,
        <label class="whitespace-nowrap"
          >at most
          <input
            type="number"
            min="0"
            step="any"
            :class="[ENTRY, 'w-[62px] text-right']"
            v-typed="line.most ?? ''"
            placeholder="no limit"
            :aria-label="`Line ${number}: limit`"
            @change="
              set({ most: ($event.target as HTMLInputElement).value === '' ? null : Math.abs(valueOf($event)) })
            "
        /></label>
      </template>
      <FilterSentence
        v-else-if="line.for.what === 'being' && editable"
        bare
        :group="line.for.where"
        :object="object"
        @set="set({ for: { what: 'being', where: $event } })"
      />
      <ConditionGroup
        v-else-if="line.for.what === 'being'"
        :group="line.for.where"
        :object="object"
        :editable="false"
        :open-word="null"
        subject="the"
        nested
        of-linked
      />
    </fieldset>
    <div class="pt-1 text-right text-[13px]">
      <p v-if="gives">
        <b class="font-semibold">{{ gives.points.toLocaleString('en') }}</b> {{ nounOf(gives.points, 'point') }} to
        <b class="font-semibold">{{ figure(gives.records) }}</b> {{ nounOf(gives.records, object) }}
      </p>
      <p v-if="editable" class="mt-1 whitespace-nowrap">
        <button
          type="button"
          class="button px-2! py-0.5!"
          :aria-label="`Move line ${number} up`"
          :disabled="number === 1"
          @click="emit('move', -1)"
        >
          ↑
        </button>
        <button
          type="button"
          class="button px-2! py-0.5!"
          :aria-label="`Move line ${number} down`"
          @click="emit('move', 1)"
        >
          ↓
        </button>
        <button
          type="button"
          class="button px-2! py-0.5!"
          :aria-label="`Remove line ${number}`"
          @click="emit('remove')"
        >
          ×
        </button>
      </p>
    </div>
  </li>
</template>
