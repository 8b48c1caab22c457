import type { Instance } from '@/api/types'

/** The kinds of instance, as one reads them. */
export const KINDS: Record<string, string> = {
  postgresql: 'PostgreSQL',
  jvm: 'JVM',
  appserver: 'Application server',
  jamjar: 'Jam Jar itself',
}

/** Jam Jar itself stands on the shelf but is not counted. */
export const isOwn = (instance: Instance) => instance.kind === 'jamjar'
