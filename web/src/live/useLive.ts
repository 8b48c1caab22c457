import { tryOnScopeDispose, useDebounceFn } from '@vueuse/core'
import { effectScope, ref, watch, type Ref } from 'vue'
import { isHere } from '@/access/useMe'
import type { InstanceState, LiveReading } from '@/api/types'
import { useClock } from '@/window/useClock'
import { perFrame } from './perFrame'
import { liveStream } from './stream'
import { wants } from './wants'

/**
 * One live stream per browser, shared among its tabs: the tab that holds the lock reads it and passes everything on. Each
 * tab says which instances it wants; the stream tells of all of them.
 */

const LOST_AFTER = 7000
/** What is fetched while a page begins is not fetched again when its stream opens. */
const BEGINS_WITHIN = 2000
const MISSED_AFTER = 300
const AGAIN_AFTER = 2000

type Event = { name: string; data: unknown }
type Message =
  | { kind: 'want'; tab: string; instances: number[] }
  | { kind: 'who' }
  | { kind: 'event'; event: Event }

type Listener = {
  state: (state: InstanceState) => void
  removed: (id: number) => void
  reading: (reading: LiveReading) => void
  /** Alerts, limits or markers are not as they were. */
  changed: (what: string) => void
  /** Something may have been missed: fetch what is shown. */
  missed: () => void
}

const connected = ref(false)
const heardAt = ref(0)
const listeners = new Set<Partial<Listener>>()
const tab = crypto.randomUUID()
const lockOf = (one: string) => `jamjar-tab-${one}`
/** Opened when somebody listens. */
let channel: BroadcastChannel | undefined
/** What the parts of this page want, and what each tab does. */
const here = wants<symbol>()
const tabs = wants<string>()
const stream = liveStream(tabs.all, (name, data) => {
  channel?.postMessage({ kind: 'event', event: { name, data } } satisfies Message)
  deliver({ name, data })
})
let leading = false
/** This tab has its lock: before, the one that leads would take it for gone. */
let held = false

const tellMissed = useDebounceFn(() => {
  for (const listener of listeners) listener.missed?.()
}, MISSED_AFTER)

const deliver = perFrame<Event>((events) => {
  for (const { name, data } of events) {
    if (name === 'beat' || name === 'state' || name === 'reading') heardAt.value = Date.now()
    if (name === 'reload' || (name === 'opened' && performance.now() > BEGINS_WITHIN)) {
      void tellMissed()
    }
    for (const listener of listeners) {
      if (name === 'state') listener.state?.(data as InstanceState)
      else if (name === 'removed') listener.removed?.((data as { instance: number }).instance)
      else if (name === 'reading') listener.reading?.(data as LiveReading)
      else if (name === 'changed') listener.changed?.((data as { what: string }).what)
    }
  }
})

function take(one: string, instances: number[]) {
  const known = tabs.has(one)
  tabs.set(one, instances)
  if (!leading) return
  stream.tell()
  // its lock is free once it is gone, however it ended
  if (!known && one !== tab) {
    void navigator.locks.request(lockOf(one), () => {
      tabs.drop(one)
      stream.tell()
    })
  }
}

let telling = false
/** Once for all that a change of view changes. */
function tellWants() {
  if (telling) return
  telling = true
  queueMicrotask(() => {
    telling = false
    const instances = here.all()
    if (held) channel?.postMessage({ kind: 'want', tab, instances } satisfies Message)
    take(tab, instances)
  })
}

let asked = 0
/** Who was signed out hears nothing any more; a stream that was refused is not opened again by the browser. */
async function again() {
  if ((await isHere()) && leading && stream.isLost()) stream.open()
}

let begun = false
function begin() {
  if (begun) return
  begun = true
  channel = new BroadcastChannel('jamjar-live')
  channel.onmessage = ({ data }: MessageEvent<Message>) => {
    if (data.kind === 'event') deliver(data.event)
    else if (data.kind === 'who') tellWants()
    else if (leading) take(data.tab, data.instances)
  }
  void navigator.locks.request(lockOf(tab), () => {
    held = true
    tellWants()
    return new Promise(() => {})
  })
  void navigator.locks.request('jamjar-live', async () => {
    leading = true
    stream.open()
    channel?.postMessage({ kind: 'who' } satisfies Message)
    await new Promise(() => {})
  })
  // whoever began it: it goes on when that part of the page is gone
  effectScope(true).run(() => {
    watch(useClock(), (now) => {
      connected.value = now - heardAt.value < LOST_AFTER
      if (!connected.value && now - asked > AGAIN_AFTER) {
        asked = now
        void again()
      }
    })
    watch(heardAt, () => (connected.value = true))
  })
}

export function useLive() {
  begin()
  return { connected, heardAt }
}

/** Hears until who asked is gone. */
export function onLive(listener: Partial<Listener>) {
  begin()
  listeners.add(listener)
  tryOnScopeDispose(() => listeners.delete(listener))
}

/** Readings of these are told until who asked is gone. */
export function useWanted(instances: Ref<number[]>) {
  begin()
  const who = Symbol()
  watch(
    () => instances.value.join(),
    () => {
      here.set(who, instances.value)
      tellWants()
    },
    { immediate: true },
  )
  tryOnScopeDispose(() => {
    here.drop(who)
    tellWants()
  })
}
