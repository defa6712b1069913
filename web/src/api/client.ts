import createClient from 'openapi-fetch'
import { fetchPatiently } from '../lib/away'
import type { components, paths } from './schema'

export type Schemas = components['schemas']

/** The CSRF token that Django keeps in a cookie. */
export function csrfToken(): string {
  return document.cookie.match(/(?:^|; )csrftoken=([^;]*)/)?.[1] ?? ''
}

export const api = createClient<paths>({
  baseUrl: globalThis.location?.origin ?? 'http://localhost',
  fetch: (request: Request) => fetchPatiently(request),
})

api.use({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRFToken', csrfToken())
    return request
  },
  onResponse({ response }) {
    if (response.status === 401)
      window.location.assign(`/sign-in/?next=${encodeURIComponent(window.location.pathname)}`)
    return response
  },
})

/** A body under its schema's own type: openapi-fetch widens tuples (points, pairs) to arrays on the way. */
export function typed<Name extends keyof Schemas>(_: Name, data: unknown): Schemas[Name] {
  return data as Schemas[Name]
}
