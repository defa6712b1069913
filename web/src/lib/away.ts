import { ref } from 'vue'

/** Milliseconds after which a server that has not answered is said to be away, and after which it is no longer waited for. */
export const AWAY = 10_000
export const LOST = 60_000

/** Requests that have waited for longer than AWAY. */
const late = ref(0)

/** Whether the server has not answered for ten seconds. */
export const isAway = () => late.value > 0

/** Milliseconds after which what is only read is asked for once more, when its connection broke. */
const AGAIN = 300

/** Fetch, saying when the server does not answer, and giving up in the end. */
export async function fetchPatiently(
  request: Request,
  send: typeof fetch = (r) => globalThis.fetch(r),
): Promise<Response> {
  let told = false
  const timer = setTimeout(() => {
    told = true
    late.value++
  }, AWAY)
  const once = () =>
    send(new Request(request, { signal: AbortSignal.any([request.signal, AbortSignal.timeout(LOST)]) }))
  try {
    return await once().catch(async (broken: unknown) => {
      if (request.method !== 'GET' || !(broken instanceof TypeError) || request.signal.aborted) throw broken
      await new Promise((resolve) => setTimeout(resolve, AGAIN))
      return once()
    })
  } finally {
    clearTimeout(timer)
    if (told) late.value--
  }
}
