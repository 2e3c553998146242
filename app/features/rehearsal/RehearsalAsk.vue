<script setup lang="ts">
import { count } from '#core/language/counts'
import type { Value } from '#core/language/value'
import { fieldWord, sayValue } from '#core/fields/say-value'
import { OBJECT_WORDS } from '#core/records/kinds'
import { readMinute } from '#core/time/moments'
import { useCatalogue } from '~/shared/stores/catalogue'
import OptionList from '~/shared/words/OptionList.vue'
import PopOver from '~/shared/words/PopOver.vue'
import ValueEditor from '~/shared/words/ValueEditor.vue'
import { activityOf, type Assumed, type Rehearsal } from './useRehearsal'

/** What is rehearsed, as a sentence: rules, records, how long, and what is assumed to happen. */
const { r } = defineProps<{ r: Rehearsal }>()
const store = useCatalogue()
const addRule = ref(false)
const options = computed(() =>
  r.lines
    .filter((rule) => !r.chosen.includes(rule.id) && rule.problems === 0)
    .map((rule) => ({
      value: String(rule.id),
      label: rule.name,
      hint: `${OBJECT_WORDS[rule.object].many}, ${rule.state}`,
      group: '',
    })),
)

const given = reactive<Assumed>({ day: 3, time: '10:00', field: '', value: null })
const fields = computed(() => store.catalogue.fields(r.object).filter((field) => field.keptBy === null))
const givenField = computed(() => store.catalogue.field(r.object, given.field))
function assume(value: Value): void {
  if (!givenField.value || readMinute(given.time) === null) return
  r.assume({ ...given, value })
}
const activity = computed(() => activityOf(given))
const about = ref('')
function assumeDone(): void {
  if (readMinute(given.time) !== null) r.assume({ ...given, value: about.value.trim() })
}
const sayAssumed = (line: Assumed): string => {
  const when = `on day ${line.day} at ${line.time}`
  const done = activityOf(line)
  if (done) {
    const words = store.catalogue.activities.words(done)
    const which = r.record ? 'the' : 'each'
    const about = line.value ? ` (${String(line.value)})` : ''
    return r.object === 'contact'
      ? `${when} ${which} contact ${words.does}${about}`
      : `${when} the contacts of ${which} ${OBJECT_WORDS[r.object].one} ${words.did}${about}`
  }
  const field = store.catalogue.field(r.object, line.field)
  const what = `${field ? fieldWord(field) : line.field}${r.record ? '' : ' of each record'}`
  return `${when} the ${what} changes to ${field ? sayValue(line.value, field, store.catalogue) : String(line.value)}`
}

const SPANS = [30, 90, 180, 365]
/** An address may ask for any number of days: that is one of them then. */
const spans = computed(() => [...new Set([...SPANS, r.days])].sort((a, b) => a - b))

function takeRule(id: number): void {
  addRule.value = false
  r.go({ rules: [...r.chosen, id].join(',') })
}
const stageOptions = computed(() =>
  store.catalogue.pipelines.flatMap((pipeline) =>
    pipeline.stages.map((stage) => ({ value: stage.id, label: stage.name, group: pipeline.name })),
  ),
)
</script>

<template>
  <div
    class="mt-2 flex-none border-b border-ink2 pb-3 font-serif text-[18px] leading-relaxed"
    role="group"
    aria-label="Rehearsal settings"
  >
    Rehearse
    <template v-for="(rule, i) in r.picked" :key="rule.id"
      ><template v-if="i">, </template
      ><NuxtLink :to="`/rules/${rule.id}`" class="name-link font-semibold text-violet">{{ rule.name }}</NuxtLink
      ><button
        v-if="r.picked.length > 1"
        type="button"
        class="quiet px-1 font-sans"
        :aria-label="`Remove rule “${rule.name}”`"
        @click="r.go({ rules: r.chosen.filter((one) => one !== rule.id).join(',') })"
      >
        ×
      </button></template
    >
    {{ ' '
    }}<button
      type="button"
      class="word"
      :data-missing="r.picked.length === 0 ? '' : undefined"
      data-word="rehearse/rule"
      @click="addRule = !addRule"
    >
      {{ r.picked.length === 0 ? 'Choose rule' : 'Add rule' }}
    </button>
    <PopOver v-if="addRule" anchor="[data-word='rehearse/rule']" label="Rule" @close="addRule = false"
      ><OptionList :options="options" label="Rule" placeholder="Search rules" @pick="takeRule(Number($event))"
    /></PopOver>
    <template v-if="r.object !== 'none'">
      on
      <select
        class="entry"
        aria-label="Records"
        :value="r.who"
        :disabled="r.record !== null"
        @change="r.go({ who: ($event.target as HTMLSelectElement).value })"
      >
        <option value="all">all {{ OBJECT_WORDS[r.object].many }}</option>
        <option value="matching">{{ OBJECT_WORDS[r.object].many }} that match now</option>
        <option v-if="r.record" value="one">
          {{
            r.view?.lines.find((line) => line.ref.id === r.record)?.recordName ??
            `${OBJECT_WORDS[r.object].One} ${r.record}`
          }}
        </option>
      </select></template
    >
    <button
      v-if="r.record"
      type="button"
      class="quiet px-1 font-sans"
      :aria-label="`Use all ${OBJECT_WORDS[r.object].many}`"
      @click="r.go({ record: undefined })"
    >
      ×
    </button>
    {{ r.back ? 'over the last' : 'for the next' }}
    <select
      class="entry"
      aria-label="Period"
      :value="String(r.days)"
      @change="r.go({ days: ($event.target as HTMLSelectElement).value })"
    >
      <option v-for="days in spans" :key="days" :value="String(days)">
        {{ days === 365 ? '1 year' : count(days, 'day') }}
      </option>
    </select>
    <label class="ml-3 inline-flex items-center gap-1.5 font-sans text-[14px]"
      ><input
        type="checkbox"
        :checked="r.back"
        @change="r.go({ back: ($event.target as HTMLInputElement).checked ? '1' : undefined })"
      />
      Replay past changes</label
    >
    <label class="ml-3 inline-flex items-center gap-1.5 font-sans text-[14px]"
      ><input
        type="checkbox"
        :checked="r.compare"
        @change="r.go({ compare: ($event.target as HTMLInputElement).checked ? '1' : undefined })"
      />
      Compare with published version</label
    >
    <span v-for="(line, i) in r.script" :key="i" class="ml-2"
      >, assuming that {{ sayAssumed(line)
      }}<button
        type="button"
        class="quiet px-1 font-sans"
        :aria-label="`Remove assumption: ${sayAssumed(line)}`"
        @click="r.unassume(i)"
      >
        ×
      </button></span
    >
    {{ ' '
    }}<button
      v-if="r.picked.length > 0"
      type="button"
      class="act"
      data-word="rehearse/assume"
      @click="r.askAssumed(!r.assuming)"
    >
      Add assumption…
    </button>
    <PopOver v-if="r.assuming" anchor="[data-word='rehearse/assume']" label="Assumption" @close="r.askAssumed(false)">
      <p class="flex items-center gap-2">
        Day
        <input
          v-model.number="given.day"
          class="entry w-16"
          type="number"
          min="0"
          :max="r.days"
          aria-label="Day"
          @vue:mounted="($event.el as HTMLElement).focus()"
        />
        at <input v-model="given.time" class="entry w-16" aria-label="Time" />
      </p>
      <select v-model="given.field" class="entry mt-2 w-full" aria-label="What happens">
        <option value="">Choose what happens</option>
        <optgroup label="A field changes">
          <option v-for="field in fields" :key="field.key" :value="field.key">{{ field.label }}</option>
        </optgroup>
        <optgroup :label="r.object === 'contact' ? 'The contact' : 'A contact of it'">
          <option v-for="one in store.catalogue.activities.options('does')" :key="one.value" :value="`@${one.value}`">
            {{ one.label }}
          </option>
        </optgroup>
      </select>
      <form v-if="activity" class="mt-2 flex gap-2" @submit.prevent="assumeDone">
        <input
          v-model="about"
          class="entry min-w-0 flex-1"
          :aria-label="store.catalogue.activities.words(activity).about"
          :placeholder="store.catalogue.activities.words(activity).about"
        />
        <button type="submit" class="button">Assume</button>
      </form>
      <div v-if="givenField" class="mt-2">
        <OptionList
          v-if="givenField.type === 'stage'"
          :options="stageOptions"
          label="Stage"
          placeholder="Choose a value"
          @pick="assume($event)"
        /><ValueEditor v-else :key="given.field" :field="givenField" :value="null" @set="assume($event)" />
      </div>
    </PopOver>
    <span class="ml-4 inline-flex items-center gap-2 align-middle font-sans">
      <button
        v-if="r.state !== 'running'"
        type="button"
        class="button main"
        :disabled="r.picked.length === 0"
        data-begin
        @click="r.begin"
      >
        Rehearse <kbd>R</kbd>
      </button>
      <template v-else
        ><progress class="h-2 w-40" :value="r.progress" max="1" aria-label="Progress" /><button
          type="button"
          class="button"
          data-stop
          @click="r.stop"
        >
          Stop
        </button></template
      >
    </span>
  </div>
</template>
