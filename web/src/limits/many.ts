import type { Limit, LimitBody } from '@/api/types'
import { isDownwards, isOfInstance } from './limits'

/** What is done with a number of several limits: it stays, is set, or is multiplied. */
export type NumberChange = { how: 'stays' | 'set' | 'times'; number: number | null }

/** What is changed of several limits at once. */
export type ManyChange = {
  warning: NumberChange
  critical: NumberChange
  state: 'stays' | 'on' | 'off'
  reason: string
  /** Until when they are off, epoch ms; null until they are switched on. */
  until: number | null
}

/** A product of decimals is none. */
const inFewDigits = (n: number) => Number(n.toPrecision(6))

/** A number that a limit does not have is not made by multiplying. */
function numberAfter(before: number | null, change: NumberChange): number | null {
  if (change.how === 'stays' || change.number === null) return before
  if (change.how === 'set') return change.number
  return before === null ? null : inFewDigits(before * change.number)
}

/** Calm again moves along with its number; on the wrong side of a number that was set it is worked out anew. */
function clearAfter(limit: Limit, change: ManyChange, warning: number | null): number | null {
  const clear = limit.clear?.number ?? null
  const { how, number } = limit.warning === null ? change.critical : change.warning
  if (clear === null || how === 'stays' || number === null) return clear
  if (how === 'times') return inFewDigits(clear * number)
  const lowest = warning ?? number
  return (isDownwards(limit) ? clear < lowest : clear > lowest) ? null : clear
}

/** A limit as it would be. */
export function changed(limit: Limit, change: ManyChange): LimitBody {
  const warning = numberAfter(limit.warning, change.warning)
  const off = change.state === 'off'
  return {
    ...limit,
    warning,
    critical: numberAfter(limit.critical, change.critical),
    clear: { number: clearAfter(limit, change, warning), seconds: limit.clear?.seconds ?? null },
    ...(change.state === 'stays'
      ? {}
      : {
          on: off ? false : null,
          offReason: off ? change.reason : '',
          offUntil: off ? change.until : null,
        }),
  }
}

const KEPT = ['warning', 'critical', 'on', 'offReason', 'offUntil'] as const

/** Whether anything of it changes. */
export const differs = (limit: Limit, to: LimitBody) =>
  KEPT.some((key) => limit[key] !== to[key]) || limit.clear?.number !== to.clear.number

/** Why it could not be saved; empty where it could. The server says the same. */
export function faultOf(limit: LimitBody): string {
  const { warning, critical } = limit
  if (warning === null || critical === null) return ''
  return (isDownwards(limit) ? critical > warning : critical < warning)
    ? 'critical would be passed before warning'
    : ''
}

/** Whether the past can tell how loud it would be. */
export const canBeTried = (limit: LimitBody) =>
  !isOfInstance(limit) && limit.condition !== 'reaches' && limit.on !== false
