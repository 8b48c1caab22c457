import { api, isClosed, openLive } from '@/api/client'

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
      // one that is not open any more is opened again, and told then
      await api.want(id, wanted()).catch(() => {})
    }
    telling = false
  }

  return {
    open,
    tell: () => void tell(),
    isLost: () => source !== undefined && isClosed(source),
  }
}
