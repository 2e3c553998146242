<script setup lang="ts">
import { count } from '#core/language/counts'
import { sayInstant, sayDate } from '#core/time/say'
import { saveText } from '~/shared/api/saveText'
import { problemOf, sayApiProblem, read, send, attempt } from '~/shared/api/api'
import AppDialog from '~/shared/dialog/AppDialog.vue'
import { useKeys } from '~/shared/keys/useKeys'
import { useCatalogue } from '~/shared/stores/catalogue'
import { useLiveQuery } from '~/shared/live/useLiveQuery'

/** Rehearsals that were kept with what is expected of them: all of them run again in a moment. */
useHead({ title: 'Test cases' })
const store = useCatalogue()
const route = useRoute()
const rule = computed(() => (typeof route.query.rule === 'string' ? Number(route.query.rule) || null : null))
const { data, refresh } = await useLiveQuery('/api/v1/cases', {
  query: () => (rule.value ? { rule: rule.value } : {}),
  changedBy: ['rules', 'catalogue'],
  reread: () => again(),
})
interface Ran {
  readonly id: number
  readonly wrong: readonly string[]
  readonly starts: number
  readonly tasks: number
}
const ran = shallowRef<ReadonlyMap<number, Ran> | null>(null)
async function run(): Promise<void> {
  const found = await attempt(() =>
    send<{ cases: Ran[] }>('POST', '/api/v1/cases/runs', rule.value ? { rule: rule.value } : {}),
  )
  if (found) ran.value = new Map(found.cases.map((one) => [one.id, one]))
}
onMounted(run)
/** The list anew, and what each of them comes to by now. */
async function again(): Promise<void> {
  await refresh()
  await run()
}
const editable = computed(() => store.may('build'))
const counted = computed(() => ({
  right: [...(ran.value?.values() ?? [])].filter((one) => one.wrong.length === 0).length,
  wrong: [...(ran.value?.values() ?? [])].filter((one) => one.wrong.length > 0).length,
}))

const open = ref<{ id: number; text: string; kept: string; trouble: string } | null>(null)
async function edit(id: number): Promise<void> {
  const found = await attempt(() => read<{ text: string }>(`/api/v1/cases/${id}`))
  if (found) open.value = { id, text: found.text, kept: found.text, trouble: '' }
}
async function keep(): Promise<void> {
  const now = open.value
  if (!now) return
  try {
    await send('PUT', `/api/v1/cases/${now.id}`, { text: now.text })
    open.value = null
    await again()
  } catch (error) {
    now.trouble = sayApiProblem(problemOf(error))
  }
}
async function accept(id: number): Promise<void> {
  if (await attempt(() => send('POST', `/api/v1/cases/${id}/accept`))) await run()
}
async function asFile(id: number): Promise<void> {
  const found = await attempt(() => read<{ file: string }>(`/api/v1/cases/${id}`))
  if (found) saveText(found.file, `case-${id}.yaml`, 'application/yaml')
}
const going = ref<number | null>(null)
async function remove(id: number): Promise<void> {
  going.value = null
  if (await attempt(() => send('DELETE', `/api/v1/cases/${id}`))) await again()
}
useKeys({ r: () => void run() })
/** "24 Nov 2026, 9:00" of a time as a case writes it. */
const sayWritten = (written: string): string => {
  const [day = '', time = ''] = written.split('T')
  return time ? `${sayDate(day)}, ${time.slice(0, 5).replace(/^0/, '')}` : sayDate(day)
}
</script>

<template>
  <div class="relative h-full overflow-auto px-8 pt-4 pb-12" tabindex="0">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1>Test cases</h1>
      <p class="quiet">
        Saved rehearsals with an expected result. They run again before one of their rules is published.
      </p>
      <span class="ml-auto flex gap-2"
        ><NuxtLink v-if="rule" to="/cases" class="button">All rules</NuxtLink
        ><button v-if="(data?.cases.length ?? 0) > 0" type="button" class="button main" @click="run">
          Run all <kbd>R</kbd></button
        ><NuxtLink to="/rehearsal" class="button">Rehearsal</NuxtLink></span
      >
    </div>
    <p v-if="ran && ran.size > 0" class="mt-3 flex gap-6 text-[13px] text-ink2" aria-live="polite" data-cases-ran>
      <span
        ><b class="block font-serif text-[22px] leading-none font-medium text-moss">{{ counted.right }}</b
        >as expected</span
      ><span
        ><b
          class="block font-serif text-[22px] leading-none font-medium"
          :class="counted.wrong > 0 ? 'text-brick' : 'text-ink'"
          >{{ counted.wrong }}</b
        >otherwise</span
      >
    </p>
    <ul class="mt-3">
      <li v-for="one in data?.cases ?? []" :key="one.id" class="border-t border-hair py-2" data-case>
        <div class="flex flex-wrap items-baseline gap-x-3 gap-y-1">
          <span
            class="mark translate-y-px"
            :class="!ran?.get(one.id) ? '' : ran.get(one.id)!.wrong.length > 0 ? 'stop' : 'people'"
            aria-hidden="true"
          />
          <span class="font-serif text-[18px]">{{ one.name }}</span>
          <NuxtLink
            v-for="of in one.rules"
            :key="of.id"
            :to="`/rules/${of.id}`"
            class="name-link font-semibold text-violet"
            >{{ of.name }}</NuxtLink
          >
          <span class="quiet"
            >{{ count(one.records, 'record') }}, {{ sayWritten(one.start) }} to {{ sayWritten(one.until) }} ·
            {{ store.personName(one.changedBy) }}, {{ sayInstant(one.changedAt, store.catalogue.workspace.zone) }}</span
          >
          <span
            v-if="ran?.get(one.id)"
            class="text-[13.5px]"
            :class="ran.get(one.id)!.wrong.length > 0 ? 'text-brick' : 'text-moss'"
            >{{
              ran.get(one.id)!.wrong.length > 0
                ? 'Different result'
                : `Passed: ${count(ran.get(one.id)!.starts, 'run')}, ${count(ran.get(one.id)!.tasks, 'task')}`
            }}</span
          >
          <span v-if="editable" class="ml-auto flex gap-2"
            ><button type="button" class="button py-0.5!" @click="edit(one.id)">Edit</button
            ><button type="button" class="button py-0.5!" @click="asFile(one.id)">Download</button
            ><button type="button" class="button py-0.5!" @click="going = one.id">Delete</button></span
          >
        </div>
        <ul v-if="(ran?.get(one.id)?.wrong.length ?? 0) > 0" class="mt-1 ml-6 text-[14px]">
          <li v-for="line in ran!.get(one.id)!.wrong.slice(0, 12)" :key="line" class="text-brick">{{ line }}</li>
          <li v-if="ran!.get(one.id)!.wrong.length > 12" class="quiet">
            and {{ ran!.get(one.id)!.wrong.length - 12 }} more
          </li>
          <li v-if="editable && !ran!.get(one.id)!.wrong[0]?.startsWith('Can’t run')" class="mt-1">
            <button type="button" class="button py-0.5!" data-accept @click="accept(one.id)">
              Accept as expected result
            </button>
          </li>
        </ul>
        <form v-if="open?.id === one.id" class="mt-2 ml-6" @submit.prevent="keep" @keydown.escape="open = null">
          <textarea
            v-model="open.text"
            class="entry h-80 w-full font-mono text-[13px]"
            aria-label="Test case (YAML)"
            spellcheck="false"
            @vue:mounted="($event.el as HTMLElement).focus()"
          />
          <p v-if="open.trouble" class="text-brick" role="alert">{{ open.trouble }}</p>
          <p class="mt-1 flex items-baseline gap-2">
            <button type="submit" class="button main" :disabled="open.text === open.kept">Save</button
            ><button type="button" class="button" @click="open = null">Cancel</button
            ><span class="quiet">Records, times and expected result. Rules are taken from the workspace.</span>
          </p>
        </form>
      </li>
    </ul>
    <div v-if="data?.cases.length === 0" class="mt-16 text-center">
      <p class="font-serif text-[20px]">{{ rule ? 'No test cases for this rule yet.' : 'No test cases yet.' }}</p>
      <p class="quiet mt-2">
        <NuxtLink :to="rule ? `/rehearsal?rules=${rule}` : '/rehearsal'" class="word"
          >Rehearse {{ rule ? 'this rule' : 'a rule' }}</NuxtLink
        >
        and save the result as a test case. When the rule changes, you see what is different.
      </p>
    </div>
    <AppDialog
      v-if="going !== null"
      title="Delete this test case?"
      label="Delete test case"
      role="alertdialog"
      @close="going = null"
    >
      <p class="mt-2">This can’t be undone.</p>
      <p class="mt-4 flex gap-2">
        <button type="button" class="button main" data-first @click="remove(going)">Delete test case</button>
        <button type="button" class="button" @click="going = null">Cancel</button>
      </p>
    </AppDialog>
  </div>
</template>
