import { createGlobalState, usePreferredDark } from '@vueuse/core'
import { computed, watch } from 'vue'
import { useLikes } from './useLikes'

export type Theme = 'light' | 'dark'

/** Light or dark: as the machine is, or as who looks has chosen. */
export const useTheme = createGlobalState(() => {
  const { likes, choose } = useLikes()
  const system = usePreferredDark()
  const theme = computed<Theme>(
    () => (likes.value.theme as Theme | '') || (system.value ? 'dark' : 'light'),
  )
  const found = new Map<string, string>()

  watch(theme, (now) => (document.documentElement.dataset.theme = now), { immediate: true })

  /** A colour of the theme, for what is not drawn by style. */
  function token(name: string): string {
    const key = `${theme.value} ${name}`
    let value = found.get(key)
    if (value === undefined) {
      value = getComputedStyle(document.documentElement).getPropertyValue(name).trim()
      found.set(key, value)
    }
    return value
  }
  /** One that the server does not keep holds at this browser. */
  const toggle = () =>
    void choose({ theme: theme.value === 'dark' ? 'light' : 'dark' }).catch(() => undefined)

  return { theme, token, toggle }
})
