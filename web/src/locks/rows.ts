import type { LockNode, LockRoot, Locks, Session } from '@/api/types'

/** One line of the forest. */
export type Row = {
  key: string
  depth: number
  session: Session | undefined
  pid: number
  root: LockRoot | undefined
  node: LockNode | undefined
  /** What is the same of rows that fold into one; empty for one that stands alone. */
  alike: string
}

/** The forest from top to bottom, a line for each; of several blockers a waiter stands under each. */
export function rowsOf(locks: Locks): Row[] {
  return locks.roots.flatMap((root) => {
    const path: number[] = [root.pid]
    const top: Row = {
      key: `${root.pid}`,
      depth: 0,
      session: root.session ?? undefined,
      pid: root.pid,
      root,
      node: undefined,
      alike: '',
    }
    const below = root.below.map((node): Row => {
      const s = node.session
      path.length = node.depth
      const under = path.join('/')
      path.push(s.pid)
      return {
        key: path.join('/'),
        depth: node.depth,
        session: s,
        pid: s.pid,
        root: undefined,
        node,
        alike:
          node.leaf && !node.reference
            ? [under, s.user, s.program, s.statement, node.wants, node.ahead].join('\n')
            : '',
      }
    })
    return [top, ...below]
  })
}
