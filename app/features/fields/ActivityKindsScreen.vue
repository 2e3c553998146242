<script setup lang="ts">
import { count, figure } from '#core/language/counts'
import { capital } from '#core/language/nouns'
import { attempt, send } from '~/shared/api/api'
import { useLiveQuery, type AnswerOf } from '~/shared/live/useLiveQuery'
import { useCatalogue } from '~/shared/stores/catalogue'
import ActivityKindDialog from './ActivityKindDialog.vue'
import { NEW_KIND, writtenValue, type WrittenKind } from './activityKind'
import FieldsNav from './FieldsNav.vue'

/** What people do, as rules know it: the kinds that come with the product, and those of one’s own. */
useHead({ title: 'Activities' })
const store = useCatalogue()
const editable = computed(() => store.may('build'))
const { data, refresh } = await useLiveQuery('/api/v1/activity-kinds', { changedBy: ['catalogue'] })
type Kind = AnswerOf<'/api/v1/activity-kinds'>['kinds'][number]
const shown = computed(() => data.value?.kinds.filter((one) => !one.archived) ?? [])
const archived = computed(() => data.value?.kinds.filter((one) => one.archived) ?? [])
const written = ref<WrittenKind | null>(null)
const change = (kind: Kind): void => {
  const { kind: name, did, does, one, many, about } = kind
  written.value = { kind: name, did, does, one, many, about, data: kind.data.map(writtenValue) }
}
async function again(): Promise<void> {
  written.value = null
  await store.load()
  await refresh()
}
async function archive(kind: string, on: boolean): Promise<void> {
  if (await attempt(() => send('PATCH', `/api/v1/activity-kinds/${kind}`, { archived: on }))) await again()
}
/** How a program tells of one. */
const example = ({ kind, example: { about, data: told } }: Kind): string =>
  JSON.stringify({ activities: [{ kind, email: 'ada@acme.example', about, data: told }] }, null, 2)
</script>

<template>
  <div class="h-full overflow-auto px-8 pt-4 pb-12 max-[599px]:px-4" tabindex="0">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Activities</h1>
      <FieldsNav current="activities" />
      <button v-if="editable" type="button" class="button main ml-auto" @click="written = { ...NEW_KIND, data: [] }">
        New activity…
      </button>
    </div>
    <p class="quiet mt-1 max-w-[80ch]">
      What people do. Rules can start with an activity, wait for it, and ask about what it tells; scorecards give points
      for it.
    </p>
    <table v-if="data" class="list mt-4" aria-label="Kinds of activities">
      <thead>
        <tr>
          <th>Activity</th>
          <th>In a rule</th>
          <th>Values</th>
          <th class="text-right!">Received</th>
          <th class="max-[699px]:hidden">For programs</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="kind in shown" :key="kind.kind" :data-kind="kind.kind">
          <td class="w-52">
            <button v-if="kind.own && editable" type="button" class="word" @click="change(kind)">
              {{ capital(kind.one) }}</button><template v-else>{{ capital(kind.one) }}</template>
            <span v-if="kind.own" class="quiet"> · your own</span>
          </td>
          <td class="w-64 font-serif text-[15px]">a contact {{ kind.does }}</td>
          <td>
            {{ [kind.about, ...kind.data.map((one) => one.label)].join(', ') }}
          </td>
          <td class="num">{{ figure(kind.kept) }}</td>
          <td class="max-[699px]:hidden">
            <details>
              <summary class="cursor-pointer whitespace-nowrap">
                <code>{{ kind.kind }}</code>
              </summary>
              <p class="quiet mt-1">POST /api/v1/activities</p>
              <pre class="mt-1 overflow-auto bg-paper2 p-2 text-[12px]" tabindex="0">{{ example(kind) }}</pre>
              <p class="quiet mt-1">JSON Schema of “data”</p>
              <pre class="mt-1 max-h-56 overflow-auto bg-paper2 p-2 text-[12px]" tabindex="0">{{
                JSON.stringify(kind.schema, null, 2)
              }}</pre>
            </details>
          </td>
        </tr>
      </tbody>
    </table>
    <section v-if="archived.length > 0" class="mt-8" aria-labelledby="archived-kinds">
      <h2 id="archived-kinds">Archived</h2>
      <p v-for="kind in archived" :key="kind.kind" class="mt-1">
        {{ capital(kind.one) }} <span class="quiet">{{ count(kind.kept, 'activity') }} · </span
        ><button v-if="editable" type="button" class="word" @click="archive(kind.kind, false)">Restore</button>
      </p>
    </section>
    <ActivityKindDialog
      v-if="written"
      :written="written"
      @done="again"
      @archive="archive($event, true)"
      @close="written = null"
    />
  </div>
</template>
