import { createGlobalState, onKeyStroke, useLocalStorage } from '@vueuse/core'

/** Whether keys act, as chosen at this browser. */
export const useKeysOn = createGlobalState(() => useLocalStorage('jamjar-keys', true))

/** Of those that scroll by themselves: they do so where something that scrolls or is chosen from has the focus. */
const OWN =
  'input, textarea, select, [contenteditable], [role=dialog], [role=slider], [role=listbox]'

/** Shortcuts, off inside fields, while a dialogue is open, and where somebody has switched them off. */
export function useKeys(keys: Record<string, (event: KeyboardEvent) => void>) {
  const on = useKeysOn()
  onKeyStroke(
    (event) => event.key in keys,
    (event) => {
      const target = event.target as HTMLElement
      const typing = target.closest(OWN)
      if (!on.value && event.key !== 'Escape') return
      if (typing || event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return
      // arrows scroll unless they mean something here
      const arrow = event.key.startsWith('Arrow')
      const before = arrow ? event.shiftKey || !!target.closest('[data-arrows]') : true
      if (!before) return
      event.preventDefault()
      keys[event.key]?.(event)
    },
  )
}
