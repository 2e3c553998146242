<script setup lang="ts">
import { ACTS, type ActName } from '#core/access/acts'
import { ROLES, ROLE_WORDS } from '#core/fields/field'
import { linesOf, namesIn, sayType, type Operation, type Schema } from './description'
import CodeText from './CodeText.vue'

/** One route: who may call it, what it takes, what it answers, and how it refuses. */
const props = defineProps<{ operation: Operation; schemas: Readonly<Record<string, Schema>> }>()
const body = computed(() => Object.values(props.operation.requestBody?.content ?? {})[0]?.schema ?? null)
const roles = computed(() =>
  ROLES.filter((role) => ACTS[role].includes(props.operation['x-act'] as ActName)).map((role) => ROLE_WORDS[role]),
)
const media = computed(() => Object.keys(props.operation.responses['200']?.content ?? {})[0] ?? '')
const answer = computed(() => Object.values(props.operation.responses['200']?.content ?? {})[0]?.schema ?? null)
const refusals = computed(() => Object.entries(props.operation.responses).filter(([status]) => status !== '200'))
const named = computed(() =>
  [...namesIn({ oneOf: [body.value ?? {}, answer.value ?? {}] }, props.schemas)].filter(
    (name) => linesOf({ $ref: `/${name}` }, props.schemas).length > 0,
  ),
)
const placeWord = { path: 'path', query: 'query', header: 'header' } as const
</script>

<template>
  <section
    :id="operation.id"
    class="scroll-mt-4 border-b border-hair py-5"
    :aria-label="`${operation.method.toUpperCase()} ${operation.path}`"
  >
    <h3 class="text-[16px] font-semibold break-words">
      <span class="mr-2 font-normal text-ink2">{{ operation.method.toUpperCase() }}</span>/api/v1{{ operation.path }}
    </h3>
    <p class="mt-1">{{ operation.summary }}. <CodeText v-if="operation.description" :text="operation.description" /></p>
    <p class="quiet mt-0.5">Roles: {{ roles.join(', ') }}</p>
    <template v-if="operation.parameters.length">
      <h4 class="mt-3 font-serif text-[15px] italic">Parameters</h4>
      <table class="list" aria-label="Parameters">
        <tbody>
          <tr v-for="one in operation.parameters" :key="one.in + one.name">
            <td class="w-[200px] font-semibold">
              {{ one.name }}<span v-if="one.required && one.in !== 'path'" class="quiet font-normal"> required</span>
            </td>
            <td class="w-[120px] text-ink2">{{ placeWord[one.in] }}</td>
            <td class="w-[34%]">{{ sayType(one.schema) }}</td>
            <td class="text-ink2"><CodeText :text="one.description ?? ''" /></td>
          </tr>
        </tbody>
      </table>
    </template>
    <template
      v-for="part in [
        { title: 'Request body', schema: body },
        {
          title: media === 'application/json' ? 'Response' : `Response (${media})`,
          schema: media === 'application/json' ? answer : null,
        },
      ]"
      :key="part.title"
    >
      <template v-if="part.schema">
        <h4 class="mt-3 font-serif text-[15px] italic">{{ part.title }}</h4>
        <table v-if="linesOf(part.schema, schemas).length" class="list" aria-label="Fields">
          <tbody>
            <tr v-for="(line, i) in linesOf(part.schema, schemas)" :key="i">
              <td class="w-[320px] font-semibold" :style="{ paddingLeft: `${line.depth * 18}px` }">
                {{ line.path }}<span v-if="!line.required" class="quiet font-normal"> optional</span>
              </td>
              <td class="w-[34%]">{{ line.type }}</td>
              <td class="text-ink2"><CodeText :text="line.description" /></td>
            </tr>
          </tbody>
        </table>
        <p v-else class="quiet">{{ part.schema.description ?? sayType(part.schema) }}</p>
      </template>
      <p v-else-if="part.title.startsWith('Response')" class="quiet mt-3">{{ part.title }}</p>
    </template>
    <details v-for="name in named" :key="name" class="mt-2">
      <summary class="cursor-pointer text-[13px]">{{ name }}</summary>
      <table class="list" :aria-label="name">
        <tbody>
          <tr v-for="(line, i) in linesOf({ $ref: `/${name}` }, schemas)" :key="i">
            <td class="w-[320px] font-semibold" :style="{ paddingLeft: `${line.depth * 18}px` }">{{ line.path }}</td>
            <td class="w-[34%]">{{ line.type }}</td>
            <td class="text-ink2">{{ line.description }}</td>
          </tr>
        </tbody>
      </table>
    </details>
    <p v-if="refusals.length" class="quiet mt-3">
      <span v-for="[status, one] in refusals" :key="status" class="mr-4"
        ><b v-if="status !== 'default'" class="font-semibold text-ink">{{ status }}</b> {{ one.description }}</span
      >
    </p>
  </section>
</template>
