<script setup lang="ts">
import { count, nounOf, plural } from '#core/language/counts'
import { setStepWord } from '#core/rules/edit'
import { STEPS } from '#core/rules/steps'
import type { Step } from '#core/rules/document'
import { OBJECT_WORDS, OBJECTS, type ObjectKind } from '#core/records/kinds'
import type { LinkPlan } from '~~/server/engine/link-all'
import { objectPath, objectOfPath, recordPath } from '~/shared/paths'
import { send, attempt } from '~/shared/api/api'
import { once } from '~/shared/api/once'
import { useWords } from '~/shared/words/useWords'
import { useCatalogue } from '~/shared/stores/catalogue'
import SentenceWords from '~/shared/words/SentenceWords.vue'
import WordPop from '~/shared/words/WordPop.vue'

/** Links records that are there by what they hold: the same sentence as in a rule, over all of them at once. */
useHead({ title: 'Link records' })
const route = useRoute()
const store = useCatalogue()
const kind = STEPS.linkMatch
const BEGIN: { readonly [K in ObjectKind]?: object } = {
  contact: { to: 'company', theirField: 'domain', part: 'domain', ownField: 'email' },
  deal: { to: 'company', theirField: 'name', part: 'whole', ownField: 'name' },
  company: { to: 'contact', theirField: 'email', part: 'domain', ownField: 'domain', several: 'all' },
}
const object = computed((): ObjectKind => objectOfPath(route.query.of) ?? 'contact')
const startOf = (of: ObjectKind): Step => {
  const known = (own: object): boolean => kind.check(own, { catalogue: store.catalogue, object: of }).length === 0
  const begin = { ...kind.start, ...BEGIN[of] }
  return { id: 'link', kind: 'linkMatch', params: known(begin) ? begin : kind.start }
}
const step = shallowRef<Step>(startOf(object.value))
const names = computed(() => ({ catalogue: store.catalogue, object: object.value }))
const problems = computed(() => kind.check(step.value.params, names.value))
const { target, openKey, open, close, goOn } = useWords()

const plan = shallowRef<LinkPlan | null>(null)
const looking = ref(false)
const made = ref<number | null>(null)
let asked = 0
async function look(): Promise<void> {
  const mine = ++asked
  if (problems.value.length > 0) {
    plan.value = null
    return
  }
  looking.value = true
  const found = await attempt(() =>
    send<LinkPlan>('POST', '/api/v1/link-plans', { object: object.value, ...step.value.params }),
  )
  if (mine !== asked) return
  looking.value = false
  plan.value = found
}
onMounted(look)
watch(object, (now) => {
  step.value = startOf(now)
  made.value = null
  void look()
})
function edit(param: string): void {
  if (kind.form[param]?.widget === 'toggle') set(param, (step.value.params as Record<string, unknown>)[param] !== true)
  else if (openKey.value === `step:link/${param}`) close()
  else open('step:link', param)
}
function set(param: string, value: unknown): void {
  step.value = setStepWord(step.value, param, value)
  made.value = null
  void look()
  if (target.value) void goOn('step:link', param)
}
const linking = ref(false)
const make = once(async (): Promise<void> => {
  linking.value = true
  const done = await attempt(() =>
    send<{ made: number }>('POST', '/api/v1/link-plans/make', { object: object.value, ...step.value.params }),
  )
  linking.value = false
  if (!done) return
  made.value = done.made
  await look()
})
const many = computed(() => OBJECT_WORDS[object.value].many)
const to = computed(() => (step.value.params as { to: ObjectKind | null }).to ?? 'company')
const counts = computed(() =>
  plan.value
    ? [
        { n: plan.value.counts.linked, text: 'already linked (unchanged)' },
        { n: plan.value.counts.several, text: 'with several matches' },
        { n: plan.value.counts.leftOut, text: 'ignored' },
        { n: plan.value.counts.none, text: 'without a match' },
        { n: plan.value.counts.empty, text: 'with an empty field' },
      ].filter((one) => one.n > 0)
    : [],
)
const n = (count: number): string => count.toLocaleString('en')
</script>

<template>
  <div
    class="mx-auto h-full max-w-[1180px] overflow-auto px-8 pt-5 pb-16"
    tabindex="0"
    role="region"
    aria-label="Link records"
  >
    <div class="flex items-baseline gap-4">
      <h1>Link records</h1>
      <nav aria-label="Record types" class="flex gap-3 font-serif text-[16px]">
        <NuxtLink
          v-for="one in OBJECTS"
          :key="one"
          :to="{ query: { of: objectPath(one) } }"
          :class="one === object ? 'border-b-2 border-ink font-medium' : 'text-ink2 italic hover:text-ink'"
          :aria-current="one === object ? 'page' : undefined"
          >{{ OBJECT_WORDS[one].Many }}</NuxtLink
        >
      </nav>
    </div>
    <p class="mt-4 font-serif text-[19px] leading-relaxed">
      For every {{ OBJECT_WORDS[object].one }}:
      <SentenceWords
        :parts="kind.sentence(step.params, names)"
        path="step:link"
        editable
        :open="openKey"
        :bad="problems.map((problem) => problem.param)"
        @edit="edit"
      />
    </p>
    <WordPop
      v-if="target"
      :target="target"
      :object="object"
      :params="{ ...step.params }"
      :form="kind.form"
      :condition="null"
      @set="set(target.param, $event)"
      @close="close"
    />

    <p v-if="problems.length" class="quiet mt-4">
      {{
        problems.some((problem) => problem.problem.code !== 'missing')
          ? 'These two fields can’t be compared.'
          : 'Complete the sentence to see a preview.'
      }}
    </p>
    <template v-else-if="plan">
      <div class="mt-5 flex flex-wrap items-end gap-x-8 gap-y-3" aria-live="polite">
        <p>
          <b class="block font-serif text-[30px] leading-none font-medium" data-links>{{ n(plan.links) }}</b><span
            class="quiet"
            >{{ nounOf(plan.links, 'link') }} will be created for {{ n(plan.counts.link) }} of
            {{ count(plan.total, object) }}</span
          >
        </p>
        <p v-for="one in counts" :key="one.text">
          <b class="block font-serif text-[22px] leading-none font-medium">{{ n(one.n) }}</b><span class="quiet">{{
            one.text
          }}</span>
        </p>
        <button
          v-if="store.may('build')"
          type="button"
          class="button main ml-auto"
          :disabled="plan.links === 0 || linking"
          @click="make"
        >
          {{ linking ? 'Linking…' : `Create ${count(plan.links, 'link')}` }}
        </button>
      </div>
      <p v-if="made !== null" class="mt-3 rounded-[3px] bg-moss-t px-3 py-2" role="status">
        {{ count(made, 'link') }} created. You can see {{ plural(made, 'it', 'them') }} on both records.
      </p>
      <div class="mt-6 grid grid-cols-2 gap-10 max-sm:grid-cols-1 max-sm:gap-6">
        <section v-if="plan.doubtful.length" aria-label="Several matches">
          <h2 class="font-serif text-[19px]">Several matches</h2>
          <table class="list mt-1" aria-label="Several matches">
            <tbody>
              <tr v-for="one in plan.doubtful" :key="one.record.id">
                <td class="align-top">
                  <NuxtLink :to="recordPath({ object, id: one.record.id })" class="name-link font-medium">{{
                    one.record.name
                  }}</NuxtLink><br /><span class="quiet">{{ one.form }}</span>
                </td>
                <td>
                  <span v-for="other in one.among" :key="other.id" class="block"
                    ><NuxtLink :to="recordPath({ object: to, id: other.id })" class="name-link">{{
                      other.name
                    }}</NuxtLink></span
                  >
                </td>
              </tr>
            </tbody>
          </table>
        </section>
        <section v-if="plan.unmatched.length" aria-label="No match">
          <h2 class="font-serif text-[19px]">No match</h2>
          <table class="list mt-1" aria-label="No match">
            <tbody>
              <tr v-for="one in plan.unmatched.slice(0, 40)" :key="one.form">
                <td>{{ one.form }}</td>
                <td class="quiet">{{ one.leftOut ? 'Ignored' : `No ${OBJECT_WORDS[to].one}` }}</td>
                <td class="num">{{ n(one.count) }}</td>
              </tr>
            </tbody>
          </table>
        </section>
        <section v-if="plan.sample.length" aria-label="Links to create">
          <h2 class="font-serif text-[19px]">Links to create</h2>
          <table class="list mt-1" aria-label="Links to create">
            <tbody>
              <tr v-for="one in plan.sample.slice(0, 60)" :key="one.record.id">
                <td>
                  <NuxtLink :to="recordPath({ object, id: one.record.id })" class="name-link font-medium">{{
                    one.record.name
                  }}</NuxtLink>
                </td>
                <td>
                  <NuxtLink
                    v-for="other in one.to.slice(0, 4)"
                    :key="other.id"
                    :to="recordPath({ object: to, id: other.id })"
                    class="name-link mr-2"
                    >{{ other.name }}</NuxtLink><span v-if="one.to.length > 4" class="quiet"
                    >and {{ one.to.length - 4 }} more</span
                  >
                </td>
                <td class="quiet">{{ one.form }}</td>
              </tr>
            </tbody>
          </table>
          <p v-if="plan.counts.link > 60" class="quiet pt-1">Showing 60 of {{ n(plan.counts.link) }}.</p>
        </section>
      </div>
    </template>
    <p v-else-if="looking" class="quiet mt-5">Checking your {{ many }}…</p>
  </div>
</template>
