import { QueryClient, useQuery, type VueQueryPluginOptions } from '@tanstack/vue-query'
import { computed, type ComputedRef } from 'vue'
import { api, type Schemas } from './client'
import type { paths } from './schema'

/** Routes that answer a GET with a value. */
type Route = {
  [P in keyof paths]: paths[P] extends { get: { responses: { 200: { content: { 'application/json': unknown } } } } }
    ? P
    : never
}[keyof paths]
export type Answer<P extends Route> = paths[P] extends {
  get: { responses: { 200: { content: { 'application/json': infer Data } } } }
}
  ? Data
  : never
type Given<P extends Route> = paths[P] extends { get: { parameters: infer Parameters } }
  ? Pick<Parameters, Extract<keyof Parameters, 'path' | 'query'>>
  : never

/** What was asked of the server is kept by its route and parameters: a revision never changes, so its answers last. Others are shown as
 * they were while they are asked anew. */
export const cache = new QueryClient({
  defaultOptions: {
    // reaching the server again is fetchPatiently's; focus and time change nothing of a revision
    queries: {
      gcTime: 300_000,
      retry: false,
      refetchOnWindowFocus: false,
      refetchOnReconnect: false,
      networkMode: 'always',
      structuralSharing: false,
    },
  },
})
export const plugin: VueQueryPluginOptions = { queryClient: cache }

/** What an answer is known by. */
const keyOf = (route: string, given: unknown) => [route, given] as const
/** What is the same for all, as long as the page is open. */
const CONSTANT = new Set<string>([
  '/api/catalogue',
  '/api/catalogue/outline',
  '/api/limits',
  '/api/national',
  '/api/templates',
])
const lasts = (route: string, given: unknown) =>
  CONSTANT.has(route) || (given as { query?: { revision?: number } } | null)?.query?.revision !== undefined

async function fetched<P extends Route>(route: P, given: Given<P>, signal?: AbortSignal): Promise<Answer<P>> {
  const get = api.GET as unknown as (
    route: string,
    init: object,
  ) => Promise<{ data?: Answer<P>; error?: Partial<Schemas['Problem']>; response: Response }>
  const { data, error, response } = await get(route, { params: given, signal })
  if (response.status === 204) throw new Error('An edit came before the answer.')
  if (data === undefined) throw new Error(error?.message ?? 'It could not be found.')
  return data
}

/** Ask once, from anywhere: what is known already is not asked again. Throws an Error with the reason in words. */
export const answer = <P extends Route>(route: P, given: Given<P>): Promise<Answer<P>> =>
  cache.fetchQuery({
    queryKey: keyOf(route, given),
    queryFn: ({ signal }) => fetched(route, given, signal),
    staleTime: lasts(route, given) ? Infinity : 0,
  })

/** Answers of a route are asked anew: something changed that they tell of. */
export const forget = (route: Route): Promise<void> => cache.invalidateQueries({ queryKey: [route] })

/** Answers about other revisions than this one go, unless they are in sight: diagrams of a large hall are megabytes each. */
export function keepOnly(revision: number): void {
  cache.removeQueries({
    type: 'inactive',
    predicate: ({ queryKey }) => {
      const of = (queryKey[1] as { query?: { revision?: number } } | null)?.query?.revision
      return of !== undefined && of !== revision
    },
  })
}

/** An answer that follows what it is asked for; null while nothing is asked, until it is there, and where there is none. problem: why.
 * keeps: whether the answer before stays in sight until the next one is there, for what they were asked. */
export function useAnswer<P extends Route>(
  route: P,
  given: () => Given<P> | null,
  keeps: (before: Given<P>, now: Given<P>) => boolean = () => false,
): { data: ComputedRef<Answer<P> | null>; problem: ComputedRef<string>; waiting: ComputedRef<boolean> } {
  const asked = computed(given)
  const query = useQuery<unknown>(
    {
      // answers are large and never changed: nothing in them is followed
      shallow: true,
      queryKey: computed(() => keyOf(route, asked.value)),
      queryFn: ({ signal }) => fetched(route, asked.value!, signal),
      enabled: computed(() => asked.value !== null),
      staleTime: computed(() => (lasts(route, asked.value) ? Infinity : 0)),
      // a function of its own for each question: the same one is not asked again
      placeholderData: computed(() => {
        const now = asked.value
        return (before: unknown, from: { queryKey: readonly unknown[] } | undefined) => {
          const of = from?.queryKey[1] as Given<P> | null | undefined
          return of && now && keeps(of, now) ? before : undefined
        }
      }),
    },
    cache,
  )
  const there = computed(() => asked.value !== null)
  return {
    data: computed(() => (there.value ? ((query.data.value as Answer<P> | undefined) ?? null) : null)),
    problem: computed(() => (there.value ? (query.error.value?.message ?? '') : '')),
    waiting: computed(() => there.value && query.isFetching.value),
  }
}

/** The same of a route that answers with a list: an empty one until it is there. */
export function useList<P extends Route>(
  route: P,
  given: () => Given<P> | null,
): Answer<P> extends readonly (infer Item)[] ? ComputedRef<Item[]> : never {
  const { data } = useAnswer(route, given)
  return computed(() => data.value ?? []) as unknown as ReturnType<typeof useList<P>>
}
