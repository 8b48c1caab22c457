import { idsOf, MOST_PICKED } from '@/window/picks'

/** What was asked for by then is told; later it is asked for anew. In ms since the page was called. */
const KEPT_MS = 10_000

/** The pages that begin with the series of the picked instances. */
const OF_PICKED = ['/now', '/counters', '/memory', '/pools']

const asked = new Map<string, Promise<Response>>()

/** What a page will ask for first. */
export function firstOf({ pathname, search }: { pathname: string; search: string }): string[] {
  const session = '/api/session'
  // who comes in by a key is nobody before
  if (pathname === '/enter') return [session]
  const picked = idsOf(new URLSearchParams(search).get('pick')).slice(0, MOST_PICKED)
  return [
    session,
    '/api/account/likes',
    '/api/instances',
    '/api/groups',
    ...(pathname === '/now' ? ['/api/arrangements'] : []),
    ...(OF_PICKED.includes(pathname) ? picked.map((id) => `/api/instances/${id}/series`) : []),
  ]
}

/** Asks for it while the page itself is still fetched. */
export function askEarly(page: { pathname: string; search: string }) {
  for (const path of firstOf(page)) {
    const answer = fetch(path)
    // told to who takes it
    answer.catch(() => undefined)
    asked.set(path, answer)
  }
}

/** The answer to what was asked for early, once. */
export function taken(path: string): Promise<Response> | undefined {
  const answer = performance.now() < KEPT_MS ? asked.get(path) : undefined
  asked.delete(path)
  return answer
}

/** Something was changed: what was asked for before is not true any more. */
export const forget = () => asked.clear()
