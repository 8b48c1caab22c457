import { ref, watch, type Ref } from 'vue'
import { isClosed, openLive } from '@/api/client'
import type { InstanceState, LiveReading } from '@/api/types'
import { useClock } from '@/window/useClock'

/**
 * One live stream per browser, shared among its tabs: the tab that holds the lock reads it and passes everything on. Each
 * tab says which instances it wants; the stream is opened for all of them together.
 */

const LOST_AFTER = 7000

type Message =
  | { kind: 'want'; tab: string; instances: number[] }
  | { kind: 'who' }
  | { kind: 'event'; name: string; data: unknown }

type Listener = {
  state: (state: InstanceState) => void
  removed: (id: number) => void
  reading: (reading: LiveReading) => void
  /** Alerts, limits or markers are not as they were. */
  changed: (what: string) => void
  /** Something may have been missed: fetch it. */
  missed: () => void
}

const connected = ref(false)
const heardAt = ref(0)
const listeners = new Set<Partial<Listener>>()
const tab = crypto.randomUUID()
const channel = new BroadcastChannel('jamjar-live')
const wants = new Map<string, number[]>()
let mine: number[] = []
let stream: EventSource | undefined
let leading = false
let opened = ''

function deliver(name: string, data: unknown) {
  if (name === 'beat' || name === 'state' || name === 'reading') heardAt.value = Date.now()
  for (const listener of listeners) {
    if (name === 'state') listener.state?.(data as InstanceState)
    else if (name === 'removed') listener.removed?.((data as { instance: number }).instance)
    else if (name === 'reading') listener.reading?.(data as LiveReading)
    else if (name === 'changed') listener.changed?.((data as { what: string }).what)
    else if (name === 'reload' || name === 'opened') listener.missed?.()
  }
}

function pass(name: string, data: unknown) {
  channel.postMessage({ kind: 'event', name, data } satisfies Message)
  deliver(name, data)
}

function open() {
  const all = [...new Set([...wants.values()].flat())].sort((a, b) => a - b)
  if (stream && !isClosed(stream) && opened === all.join()) return
  opened = all.join()
  stream?.close()
  stream = openLive(all)
  stream.onopen = () => pass('opened', {})
  for (const name of ['state', 'removed', 'reading', 'changed', 'beat', 'reload']) {
    stream.addEventListener(name, (event) => pass(name, JSON.parse((event as MessageEvent).data)))
  }
}

function tellWants() {
  wants.set(tab, mine)
  channel.postMessage({ kind: 'want', tab, instances: mine } satisfies Message)
  if (leading) open()
}

channel.onmessage = ({ data }: MessageEvent<Message>) => {
  if (data.kind === 'event') deliver(data.name, data.data)
  else if (data.kind === 'who') tellWants()
  else {
    wants.set(data.tab, data.instances)
    if (leading) open()
  }
}

let begun = false
function begin() {
  if (begun) return
  begun = true
  void navigator.locks.request('jamjar-live', async () => {
    leading = true
    channel.postMessage({ kind: 'who' } satisfies Message)
    open()
    await new Promise(() => {})
  })
  const now = useClock()
  watch(now, () => {
    connected.value = now.value - heardAt.value < LOST_AFTER
    // a stream that the server refused for good is not opened again by the browser
    if (leading && !connected.value && stream && isClosed(stream)) open()
  })
  watch(heardAt, () => (connected.value = true))
  addEventListener('pagehide', () => {
    mine = []
    tellWants()
  })
}

export function useLive() {
  begin()
  return {
    connected,
    heardAt,
    want(instances: Ref<number[]>) {
      watch(
        instances,
        (now) => {
          mine = now
          tellWants()
        },
        { immediate: true },
      )
    },
    listen(listener: Partial<Listener>) {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
  }
}
