import type { Alert, AlertBefore, AlertStory } from '@/api/types'
import { many } from '@/text/format'

/** What an alert is read with, in words. */

/** Who is affected, by what uses what; empty where nothing is known to. */
export function affectedOf(alert: Alert, story: AlertStory): string {
  const ringing = new Set(story.together.map((other) => other.subject))
  const hit = story.usedBy.filter((name) => ringing.has(name))
  if (hit.length) {
    return hit.length === 1
      ? `Together with ${hit[0]}, which uses it.`
      : `Together with ${hit.length} of the ${story.usedBy.length} that use it.`
  }
  const cause = story.uses.filter((name) => ringing.has(name))
  if (cause.length) return `Together with ${cause.join(' and ')}, which it uses.`
  if (story.usedBy.length && alert.ended === null) {
    return `${many(story.usedBy.length, 'instance')} ${story.usedBy.length === 1 ? 'uses' : 'use'} it, and none of them alerts.`
  }
  return ''
}

/** Who uses it and alerts of a pool of theirs together with it: of many the first few. */
export function shortOf(story: AlertStory, most: number): number[] {
  const short = story.together
    .filter((one) => one.counter.startsWith('pool.') && story.usedBy.includes(one.instanceName))
    .map((one) => one.instance)
  return [...new Set(short)].slice(0, most)
}

/** The first minutes of an alert, or what there is of them. */
export function firstMinutes(alert: Pick<Alert, 'since' | 'ended'>) {
  const end = Math.max(
    alert.since + FIRST / 5,
    Math.min(alert.since + FIRST, alert.ended ?? Infinity),
  )
  return { from: alert.since, to: end }
}
const FIRST = 5 * 60_000
const AGAIN = 10_000

/** Changes every ten seconds until a time is over, and once more: what is told of it until then is asked for anew. */
export const until = (end: number, now: number) => Math.floor(Math.min(now, end + AGAIN) / AGAIN)

/** What was said to it the last time that somebody said anything. */
export const lastNote = (before: AlertBefore[]) => before.find((one) => one.note)

/** Words with their links apart. */
export function linked(words: string): { text: string; href?: string }[] {
  return words
    .split(/(https?:\/\/[^\s<>"']+)/)
    .filter(Boolean)
    .map((text) => (/^https?:\/\//.test(text) ? { text, href: text } : { text }))
}
