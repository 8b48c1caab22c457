import { onKeyStroke } from '@vueuse/core'

/** Shortcuts, off inside fields and while a dialogue is open. */
export function useKeys(keys: Record<string, (event: KeyboardEvent) => void>) {
  onKeyStroke(
    (event) => event.key in keys,
    (event) => {
      const target = event.target as HTMLElement
      const typing = target.closest('input, textarea, select, [contenteditable], [role=dialog]')
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return
      event.preventDefault()
      keys[event.key]?.(event)
    },
  )
}
