import { api, Failure, isClosed, openLive } from '@/api/client'

/** What could not be told is told again: charts that stand still would look calm. */
const AGAIN_MS = 1000
const UNKNOWN = 404
const TOLD = ['state', 'removed', 'reading', 'changed', 'beat', 'reload']

/**
 * The one stream of a browser. What is wanted of it changes without opening it anew; the browser
 * opens it again by itself when it breaks, and is then told what is wanted as well.
 */
export function liveStream(wanted: () => number[], pass: (name: string, data: unknown) => void) {
  let source: EventSource | undefined
  let id = ''
  let telling = false
  let owed = false

  function open() {
    source?.close()
    id = ''
    source = openLive()
    source.onopen = () => pass('opened', {})
    source.addEventListener('stream', (event) => {
      id = JSON.parse((event as MessageEvent).data).id
      void tell()
    })
    for (const name of TOLD) {
      source.addEventListener(name, (event) => pass(name, JSON.parse((event as MessageEvent).data)))
    }
  }

  /** Says what is wanted now: the latest is the last that is said. */
  async function tell() {
    owed = true
    if (telling) return
    telling = true
    while (owed && id) {
      owed = false
      const told = id
      const failure = await api.want(told, wanted()).then(
        () => undefined,
        (e: unknown) => e,
      )
      // another was opened meanwhile, and is told
      if (!failure || told !== id) continue
      // it is not open any more, whatever this end thinks of it
      if (failure instanceof Failure && failure.status === UNKNOWN) open()
      else {
        await new Promise((done) => setTimeout(done, AGAIN_MS))
        owed = true
      }
    }
    telling = false
  }

  return {
    open,
    tell: () => void tell(),
    isLost: () => source !== undefined && isClosed(source),
  }
}
