<script setup lang="ts">
import { capital } from '#core/language/nouns'
import { count, plural } from '#core/language/counts'
import type { Pipeline, Stage } from '#core/fields/field'
import { send, attempt } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useNotices } from '~/shared/stores/notices'
import FieldsNav from './FieldsNav.vue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

/** Pipelines with their stages: what each is called, counts as, and how likely a deal in it is won. */
useHead({ title: 'Pipelines' })
const store = useCatalogue()
const editable = computed(() => store.may('build'))
const { data, refresh } = await useLiveQuery('/api/v1/pipeline-sheets', {
  changedBy: ['catalogue', 'rules', 'records'],
})
async function changed(): Promise<void> {
  await Promise.all([store.load(), refresh()])
}
const put = async (method: 'POST' | 'PATCH', path: string, body: object): Promise<boolean> => {
  const done = await attempt(() => send(method, path, body))
  await changed()
  return done !== null
}
const stagePath = (stage: Stage): string => `/api/v1/stages/${encodeURIComponent(stage.id)}`
/** What is being typed, by box: kept here, so that a page that reads itself anew does not take it back. */
const typed = reactive<Record<string, string>>({})
const typing = (box: string, event: Event): void => {
  typed[box] = (event.target as HTMLInputElement).value
}
const text = (event: Event): string => (event.target as HTMLInputElement).value.trim()
function rename(stage: Stage, event: Event): void {
  Reflect.deleteProperty(typed, `${stage.id} name`)
  if (text(event) && text(event) !== stage.name) void put('PATCH', stagePath(stage), { name: text(event) })
}
function likely(stage: Stage, event: Event): void {
  Reflect.deleteProperty(typed, `${stage.id} likely`)
  const given = text(event)
  const probability = given === '' ? null : Number(given)
  if (probability !== stage.probability) void put('PATCH', stagePath(stage), { probability })
}
function renamePipeline(pipeline: Pipeline, event: Event): void {
  Reflect.deleteProperty(typed, `${pipeline.id} pipeline`)
  if (text(event) && text(event) !== pipeline.name)
    void put('PATCH', `/api/v1/pipelines/${encodeURIComponent(pipeline.id)}`, { name: text(event) })
}
async function move(pipeline: Pipeline, index: number, by: -1 | 1): Promise<void> {
  const rest = pipeline.stages.map((stage) => stage.id)
  const [id = ''] = rest.splice(index, 1)
  const from = document.activeElement
  await put('PATCH', `/api/v1/stages/${encodeURIComponent(id)}`, { before: rest[index + by] ?? null })
  await nextTick()
  // Whoever has gone on meanwhile keeps the focus where it is.
  if (document.activeElement === from || document.activeElement === document.body)
    document.querySelector<HTMLElement>(`[data-stage="${id}"] input`)?.focus()
}
const adding = reactive<Record<string, string>>({})
const add = once(
  async (pipeline: Pipeline): Promise<void> => {
    if (
      await put('POST', `/api/v1/pipelines/${encodeURIComponent(pipeline.id)}/stages`, {
        name: adding[pipeline.id] ?? '',
      })
    )
      adding[pipeline.id] = ''
  },
  ({ id }) => id,
)
/** The stage that is being taken out, and where its deals go. */
const leaving = ref<string | null>(null)
const to = ref('')
function ask(stage: Stage): void {
  leaving.value = leaving.value === stage.id ? null : stage.id
  to.value = ''
}
async function remove(stage: Stage): Promise<void> {
  const query = to.value ? `?to=${encodeURIComponent(to.value)}` : ''
  const done = await attempt(() => send<{ moved: number }>('DELETE', `${stagePath(stage)}${query}`))
  if (!done) return
  leaving.value = null
  useNotices().tell({
    tone: 'plain',
    title: `${stage.name} removed`,
    text:
      done.moved === 0
        ? ''
        : `${count(done.moved, 'deal')} moved to ${store.catalogue.stage(to.value)?.name ?? to.value}`,
  })
  await changed()
}
const making = ref(false)
const given = reactive({ name: '', stages: '' })
const make = once(async (): Promise<void> => {
  const stages = given.stages
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
    .map((line) => {
      const [, name = line, outcome = 'open'] = /^(.*?)\s*=\s*(open|won|lost)$/i.exec(line) ?? []
      return { name, outcome: outcome.toLowerCase() }
    })
  if (!(await put('POST', '/api/v1/pipelines', { name: given.name, stages }))) return
  making.value = false
  Object.assign(given, { name: '', stages: '' })
})
const held = (stage: Stage) => data.value?.stages[stage.id] ?? { deals: 0, rules: [] }
</script>

<template>
  <div class="relative h-full overflow-auto px-8 pt-4 pb-16" tabindex="0" role="region" aria-label="Pipelines">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Pipelines</h1>
      <FieldsNav current="pipelines" /><button
        v-if="editable"
        type="button"
        class="button main ml-auto"
        @click="making = !making"
      >
        New pipeline
      </button>
    </div>
    <form
      v-if="making"
      class="mt-3 flex flex-wrap items-end gap-3 rounded-[3px] bg-paper2 p-3"
      aria-label="New pipeline"
      @submit.prevent="make"
      @keydown.escape="making = false"
    >
      <label class="quiet"
        >Name<br /><input
          v-model="given.name"
          class="entry w-56"
          required
          maxlength="100"
          @vue:mounted="($event.el as HTMLElement).focus()"
      /></label>
      <label class="quiet min-w-80 flex-1"
        >Stages (one per line). Add “= won” or “= lost” to final stages.<br /><textarea
          v-model="given.stages"
          class="entry w-full"
          rows="4"
          required
          placeholder="First call&#10;Offered&#10;Agreed = won&#10;Declined = lost"
        />
      </label>
      <p class="flex gap-2">
        <button type="submit" class="button main">Create pipeline</button
        ><button type="button" class="button" @click="making = false">Cancel</button>
      </p>
    </form>
    <section
      v-for="pipeline in data?.pipelines"
      :key="pipeline.id"
      class="mt-6 max-w-[1040px]"
      :aria-label="pipeline.name"
    >
      <h2 class="sr-only">{{ pipeline.name }}</h2>
      <input
        v-if="editable"
        :value="typed[`${pipeline.id} pipeline`] ?? pipeline.name"
        class="-ml-1 w-80 rounded-[3px] bg-transparent px-1 font-serif text-[19px] hover:bg-paper2"
        maxlength="100"
        :aria-label="`Pipeline name: ${pipeline.name}`"
        @input="typing(`${pipeline.id} pipeline`, $event)"
        @change="renamePipeline(pipeline, $event)"
      />
      <p v-else class="font-serif text-[19px]">{{ pipeline.name }}</p>
      <table class="list mt-1 table-fixed" :aria-label="`Stages of ${pipeline.name}`">
        <thead>
          <tr>
            <th class="w-[260px]">Stage</th>
            <th class="w-[110px]">Outcome</th>
            <th class="w-[110px] text-right!">Probability</th>
            <th class="w-[80px] text-right!">Deals</th>
            <th>Used in rules</th>
            <th v-if="editable" class="w-[170px]"><span class="sr-only">Order and remove</span></th>
          </tr>
        </thead>
        <tbody>
          <template v-for="(stage, i) in pipeline.stages" :key="stage.id">
            <tr :data-stage="stage.id">
              <td>
                <input
                  v-if="editable"
                  :value="typed[`${stage.id} name`] ?? stage.name"
                  class="-ml-1 w-full truncate rounded-[2px] bg-transparent px-1 hover:bg-violet-t"
                  maxlength="100"
                  :aria-label="`Stage name: ${stage.name}`"
                  @input="typing(`${stage.id} name`, $event)"
                  @change="rename(stage, $event)"
                /><template v-else>{{ stage.name }}</template>
              </td>
              <td>
                <select
                  v-if="editable"
                  class="rounded-[2px] bg-transparent hover:bg-violet-t"
                  :value="stage.outcome"
                  :aria-label="`Outcome of ${stage.name}`"
                  @change="put('PATCH', stagePath(stage), { outcome: ($event.target as HTMLSelectElement).value })"
                >
                  <option value="open">Open</option>
                  <option value="won">Won</option>
                  <option value="lost">Lost</option></select
                ><template v-else>{{ capital(stage.outcome) }}</template>
              </td>
              <td class="num">
                <input
                  v-if="editable"
                  :value="typed[`${stage.id} likely`] ?? stage.probability ?? ''"
                  class="w-14 rounded-[2px] bg-transparent px-1 text-right hover:bg-violet-t"
                  inputmode="numeric"
                  placeholder="–"
                  :aria-label="`Win probability in ${stage.name}, percent`"
                  @input="typing(`${stage.id} likely`, $event)"
                  @change="likely(stage, $event)"
                /><template v-else>{{ stage.probability ?? '' }}</template
                ><span v-if="stage.probability !== null" class="quiet">%</span>
              </td>
              <td class="num">{{ held(stage).deals.toLocaleString('en') }}</td>
              <td class="truncate">
                <template v-for="(rule, n) in held(stage).rules" :key="rule.ruleId"
                  >{{ n > 0 ? ', ' : ''
                  }}<NuxtLink :to="`/rules/${rule.ruleId}`" class="name-link">{{ rule.name }}</NuxtLink></template
                >
              </td>
              <td v-if="editable" class="num whitespace-nowrap">
                <button
                  type="button"
                  class="quiet px-1"
                  :disabled="i === 0"
                  :aria-label="`Move ${stage.name} up`"
                  @click="move(pipeline, i, -1)"
                >
                  ↑</button
                ><button
                  type="button"
                  class="quiet px-1"
                  :disabled="i === pipeline.stages.length - 1"
                  :aria-label="`Move ${stage.name} down`"
                  @click="move(pipeline, i, 1)"
                >
                  ↓</button
                ><button
                  type="button"
                  class="quiet px-1"
                  :aria-label="`Remove ${stage.name}`"
                  :aria-expanded="leaving === stage.id"
                  @click="ask(stage)"
                >
                  Remove
                </button>
              </td>
            </tr>
            <tr v-if="leaving === stage.id">
              <td :colspan="editable ? 6 : 5" class="bg-paper2!">
                <p v-if="held(stage).rules.length" class="text-brick">
                  Used in {{ plural(held(stage).rules.length, 'rule', 'rules') }}
                  {{
                    held(stage)
                      .rules.map((rule) => `“${rule.name}”`)
                      .join(', ')
                  }}. Remove it there first.
                </p>
                <form
                  v-else
                  class="flex flex-wrap items-center gap-3"
                  @submit.prevent="remove(stage)"
                  @keydown.escape="leaving = null"
                >
                  <label v-if="held(stage).deals > 0"
                    >Move its {{ count(held(stage).deals, 'deal') }} to
                    <select v-model="to" class="entry" required @vue:mounted="($event.el as HTMLElement).focus()">
                      <option value="" disabled>Choose a stage</option>
                      <optgroup v-for="other in data?.pipelines" :key="other.id" :label="other.name">
                        <option
                          v-for="one in other.stages.filter((candidate) => candidate.id !== stage.id)"
                          :key="one.id"
                          :value="one.id"
                        >
                          {{ one.name }}
                        </option>
                      </optgroup>
                    </select></label
                  >
                  <span v-else>No deals in this stage.</span>
                  <button type="submit" class="button main">Remove stage</button
                  ><button type="button" class="button" @click="leaving = null">Cancel</button>
                  <span class="quiet">This move triggers no rules. The history of {{ stage.name }} is kept.</span>
                </form>
              </td>
            </tr>
          </template>
        </tbody>
      </table>
      <form v-if="editable" class="mt-2 flex gap-2" @submit.prevent="add(pipeline)">
        <input
          v-model="adding[pipeline.id]"
          class="entry w-64"
          required
          maxlength="100"
          placeholder="New stage"
          :aria-label="`New stage in ${pipeline.name}`"
        /><button type="submit" class="button">Add</button>
      </form>
    </section>
  </div>
</template>
