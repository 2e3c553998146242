<script setup lang="ts">
import { figure, percent } from '#core/language/counts'
import { useLiveQuery } from '~/shared/live/useLiveQuery'
import IntervalBar from './IntervalBar.vue'

/** What each rule came to: whether records reach its target, and what became of its tasks and messages. */
useHead({ title: 'Results' })
const { data, problem } = await useLiveQuery('/api/v1/results', { changedBy: ['results', 'rules'] })
const share = (of: number, whole: number): string => (whole === 0 ? '' : percent(of / whole))
</script>

<template>
  <div class="screen h-full overflow-auto px-8 pt-4 pb-16 max-[599px]:px-4" tabindex="0">
    <h1>Results</h1>
    <p class="quiet max-w-[90ch]">
      What each rule came to. A rule with a target says whether records reach it; one that leaves a share of them alone
      says whether that is because of the rule. The bar is the share, the pale stretch where the true share lies with 95
      % confidence.
    </p>
    <p v-if="problem" class="mt-4 text-brick" role="alert">Results could not be loaded. Try again.</p>
    <p v-else-if="data?.rules.length === 0" class="mt-6 font-serif text-[18px]">
      No rule has run yet. <NuxtLink to="/rules" class="word">Switch one on</NuxtLink>, and what it does is counted
      here.
    </p>
    <div v-else class="overflow-x-auto" tabindex="0" role="region" aria-label="Results of rules">
      <table class="list mt-3 min-w-[960px]" aria-label="Results of rules">
        <thead>
          <tr>
            <th scope="col">Rule</th>
            <th scope="col" class="w-20 text-right">Runs</th>
            <th scope="col" class="w-32 text-right">Target reached</th>
            <th scope="col" class="w-40"><span class="sr-only">95% interval</span></th>
            <th scope="col" class="w-36">Because of the rule</th>
            <th scope="col" class="w-32 text-right">Tasks done</th>
            <th scope="col" class="w-32 text-right">Answered</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="rule in data?.rules ?? []" :key="rule.id" data-result>
            <td>
              <NuxtLink :to="`/results/${rule.id}`" class="name-link font-medium">{{ rule.name }}</NuxtLink><span
                v-if="rule.state !== 'on'"
                class="quiet"
              >
                · {{ rule.state }}</span
              >
            </td>
            <td class="text-right tabular-nums">{{ figure(rule.runs) }}</td>
            <template v-if="rule.target">
              <td class="text-right tabular-nums">
                <template v-if="rule.target.done.of > 0"
                  >{{ share(rule.target.done.reached, rule.target.done.of) }}
                  <span class="quiet">of {{ figure(rule.target.done.of) }}</span></template
                ><span v-else class="quiet">too early</span>
              </td>
              <td><IntervalBar v-if="rule.target.done.of > 0" :share="rule.target.done" /></td>
              <td :title="rule.story ?? undefined">
                <span v-if="!rule.target.difference" class="quiet">no comparison</span
                ><span v-else-if="rule.target.difference.low > 0" class="text-moss"
                  >helps: +{{ Math.round(rule.target.difference.points * 100) }} points</span
                ><span v-else-if="rule.target.difference.high < 0" class="text-brick"
                  >does harm: {{ Math.round(rule.target.difference.points * 100) }} points</span
                ><span v-else class="quiet"
                  >too few to tell{{
                    rule.target.more === null ? '' : `: about ${figure(rule.target.more)} more`
                  }}</span
                >
              </td>
            </template>
            <td v-else colspan="3" class="quiet">No target</td>
            <td class="text-right tabular-nums">
              <template v-if="rule.tasksMade > 0"
                >{{ figure(rule.tasksDone) }} <span class="quiet">of {{ figure(rule.tasksMade) }}</span></template
              >
            </td>
            <td class="text-right tabular-nums">
              <template v-if="rule.sent > 0"
                >{{ figure(rule.answered) }} <span class="quiet">of {{ figure(rule.sent) }}</span></template
              >
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>
