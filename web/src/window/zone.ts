import type { LocationQuery } from 'vue-router'
import { ownZone, zone } from '@/text/format'
import { useLikes } from '@/look/useLikes'

function isZone(name: string): boolean {
  try {
    return new Intl.DateTimeFormat('en-GB', { timeZone: name }).format() !== ''
  } catch {
    return false
  }
}

/**
 * Times are told in the zone that stands in the address, as they were for who made the link; else in
 * that which who looks likes, else in the browser's.
 */
export function readZone(query: LocationQuery) {
  const liked = useLikes().likes.value.zone
  zone.value = [String(query.zone ?? ''), liked].find((one) => one && isZone(one)) ?? ownZone
}
