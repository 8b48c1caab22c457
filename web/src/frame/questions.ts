import type { Instance } from '@/api/types'

/** A question with its fixed place and key; where it can't be answered, why. */
export type Question = { key: string; name: string; path: string; why: string }

/** The pages that answer a question of what is picked. */
export const QUESTION_PATHS = [
  ...[
    '/now',
    '/sessions',
    '/statements',
    '/locks',
    '/memory',
    '/pools',
    '/counters',
    '/baseline',
    '/compare',
  ],
  ...['/applications', '/facts', '/beans'],
]
const HEAP = ['jvm', 'appserver', 'jamjar']
const POOLS = ['appserver', 'jamjar']
const ENGINES = ['postgresql']
const THREADS = ['jvm', 'appserver']
const NO_ENGINE = 'It has no sessions of a database: of PostgreSQL engines.'

const NO_LOCKS = 'Nobody waits for a lock of it: of PostgreSQL engines, JVMs, application servers.'
const NO_STATEMENTS = 'It counts no statements: PostgreSQL engines do.'

/** What can be asked of the picked instances. */
export function questions(picked: Instance[]): Question[] {
  const some = (kinds: string[]) =>
    picked.length === 0 || picked.some((i) => kinds.includes(i.kind))
  const ask = (key: string, name: string, path: string, why = '') => ({ key, name, path, why })
  return [
    ask('1', 'Now', '/now'),
    ask('2', 'Sessions', '/sessions', some(ENGINES) ? '' : NO_ENGINE),
    ask('3', 'Statements', '/statements', some(ENGINES) ? '' : NO_STATEMENTS),
    ask('4', 'Locks', '/locks', some([...ENGINES, ...THREADS]) ? '' : NO_LOCKS),
    ask(
      '5',
      'Memory',
      '/memory',
      some(HEAP) ? '' : 'It has no heap: of JVMs and application servers.',
    ),
    ask('6', 'Pools', '/pools', some(POOLS) ? '' : 'It tells of no pools: of application servers.'),
    ask('7', 'Counters', '/counters'),
    ask('8', 'Baseline', '/baseline'),
    ask('9', 'Compare', '/compare'),
    ask(
      '',
      'Applications',
      '/applications',
      some(['appserver']) ? '' : 'No applications are deployed on it: of application servers.',
    ),
    ask('', 'Facts', '/facts'),
    ask(
      '',
      'Beans',
      '/beans',
      some(HEAP) ? '' : 'It has no managed beans: JVMs and application servers have.',
    ),
  ]
}
