import type { InternalApi } from 'nitropack'
import type { LiveMessage } from '~~/server/engine/live'
import { problemOf, type ApiProblem } from '~/shared/api/api'
import { useCalm } from './useCalm'
import { useLive } from './useLive'

/** Every route that can be read, as its file names it: `/api/v1/rules/:id`. */
export type ReadRoute = {
  [R in keyof InternalApi]: 'get' extends keyof InternalApi[R] ? R : never
}[keyof InternalApi]
/** What a route answers, after its way through JSON. */
export type AnswerOf<R extends ReadRoute> = InternalApi[R] extends { get: infer A } ? A : never

export interface LiveQueryOptions {
  /**
   * What stands for the `:names` of the route; `null` while there is nothing to ask about, and then the answer is none.
   */
  readonly params?: MaybeRefOrGetter<object | null>
  readonly query?: MaybeRefOrGetter<object>
  /** What happened that makes another answer likely: kinds of messages, or a question to each. */
  readonly changedBy?: readonly LiveMessage['about'][] | ((message: LiveMessage) => boolean)
  /** What two questions to one route are told apart by; the route by itself, when left out. */
  readonly key?: string
  /** Does not hold the page up: it shows itself while the answer comes. */
  readonly lazy?: boolean
  /** Asks in the browser only. */
  readonly browserOnly?: boolean
  /** Waits to be asked by `refresh`. */
  readonly later?: boolean
  /** How it is read anew, where that is more than reading; what it does in the end is call `refresh`. */
  readonly reread?: (refresh: () => Promise<void>) => unknown
}

export interface LiveQuery<T> {
  /** The newest answer: one that comes in after a later question was asked is dropped. `null` before the first. */
  readonly data: Readonly<Ref<T | null>>
  /** Why there is no answer, in words; `null` when there is one. */
  readonly problem: Readonly<Ref<ApiProblem | null>>
  readonly asking: Readonly<Ref<boolean>>
  readonly refresh: () => Promise<void>
}

/** The path of a route with its names filled in. */
function pathOf(route: string, params: object): string {
  return route.replace(/:(\w+)/g, (_, name: string) => {
    const value: unknown = Reflect.get(params, name)
    if (value === undefined) throw new Error(`${route} needs “${name}”`)
    return encodeURIComponent(String(value))
  })
}

/**
 * Reads a route, shows its newest answer, and reads it anew when something happened that it says: calmly, however much
 * happens, and after a lost connection is back. Made on the server where it can be. To be awaited in a page.
 */
export function useLiveQuery<R extends ReadRoute>(
  route: R,
  options: LiveQueryOptions = {},
): LiveQuery<AnswerOf<R>> & Promise<LiveQuery<AnswerOf<R>>> {
  const request = useRequestFetch() as unknown as (path: string, options: object) => Promise<AnswerOf<R>>
  const path = computed(() => {
    const params = options.params === undefined ? {} : toValue(options.params)
    return params === null ? null : pathOf(route, params)
  })
  const query = computed(() => toValue(options.query) ?? {})
  // What is asked, as one text: the same question made anew is no other one.
  const question = computed(() => JSON.stringify([path.value, query.value]))
  const asked = useAsyncData<AnswerOf<R> | null>(
    options.key ?? (options.params === undefined ? route : `${route} ${path.value}`),
    async (_app, { signal }) =>
      path.value === null ? null : await request(path.value, { query: query.value, signal }),
    {
      watch: [question],
      lazy: options.lazy ?? false,
      server: !(options.browserOnly ?? false),
      immediate: !(options.later ?? false),
    },
  )
  const refresh = (): Promise<void> => asked.refresh()
  const { changedBy, reread } = options
  if (changedBy) {
    const calmly = useCalm(() => (reread ? reread(refresh) : refresh()))
    const concerns = typeof changedBy === 'function' ? changedBy : ({ about }: LiveMessage) => changedBy.includes(about)
    useLive((message) => {
      if (concerns(message)) calmly()
    }, calmly)
  }
  const made: LiveQuery<AnswerOf<R>> = {
    data: computed(() => (asked.data.value as AnswerOf<R> | null | undefined) ?? null),
    problem: computed(() => (asked.error.value ? problemOf(asked.error.value) : null)),
    asking: computed(() => asked.status.value === 'pending'),
    refresh,
  }
  return Object.assign(
    asked.then(() => made),
    made,
  )
}

/**
 * The same for a page that is nothing without its answer: when there is none, the page is the error. Where it cannot be
 * read anew later, what was read last goes on standing there.
 */
export async function orFail<T>(
  query: Promise<LiveQuery<T>>,
  missing: string,
): Promise<LiveQuery<T> & { readonly data: Ref<T> }> {
  const made = await query
  const { problem, data } = made
  if (problem.value || data.value === null)
    throw createError({
      statusCode: problem.value?.status || 404,
      message: problem.value && problem.value.status !== 404 ? problem.value.detail : missing,
      fatal: true,
    })
  const known = shallowRef<T>(data.value)
  watch(
    data,
    (now) => {
      if (now !== null) known.value = now
    },
    { flush: 'sync' },
  )
  return { ...made, data: known }
}
