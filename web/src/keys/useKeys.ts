import { onKeyStroke } from '@vueuse/core'
import { computed } from 'vue'
import { useLikes } from '@/look/useLikes'

/** Whether keys act, as who looks has chosen. */
export function useKeysOn() {
  const { likes, choose } = useLikes()
  return computed({
    get: () => likes.value.keys,
    // one that the server does not keep holds at this browser
    set: (keys) => void choose({ keys }).catch(() => undefined),
  })
}

const TYPING = 'input, textarea, select, [contenteditable], [role=dialog]'

/**
 * Shortcuts, off inside fields, while a dialogue is open, and where somebody has switched them off.
 *
 * @param keys what each does; one that answers false leaves the key to others
 */
export function useKeys(keys: Record<string, (event: KeyboardEvent) => unknown>) {
  const on = useKeysOn()
  onKeyStroke(
    (event) => event.key in keys,
    (event) => {
      const target = event.target as HTMLElement
      const typing = target.closest(TYPING)
      if (!on.value && event.key !== 'Escape') return
      if (typing || event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return
      // arrows scroll unless they mean something here
      const scrolls = event.key.startsWith('Arrow') && !event.shiftKey
      if (scrolls && !target.closest('[data-arrows]')) return
      if (keys[event.key]?.(event) !== false) event.preventDefault()
    },
  )
}
