import type { LocationQuery } from 'vue-router'
import { ownZone, zone } from '@/text/format'

function isZone(name: string): boolean {
  try {
    return new Intl.DateTimeFormat('en-GB', { timeZone: name }).format() !== ''
  } catch {
    return false
  }
}

/** Times are told in the zone that stands in the address: as they were for who made the link. */
export function readZone(query: LocationQuery) {
  const asked = String(query.zone ?? '')
  zone.value = asked && isZone(asked) ? asked : ownZone
}
