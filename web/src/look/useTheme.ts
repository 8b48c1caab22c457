import { createGlobalState, useLocalStorage, usePreferredDark } from '@vueuse/core'
import { computed, watch } from 'vue'

export type Theme = 'light' | 'dark'

/** Light or dark: as the machine is, or as somebody has chosen at this browser. */
export const useTheme = createGlobalState(() => {
  const chosen = useLocalStorage<Theme | ''>('jamjar-theme', '')
  const system = usePreferredDark()
  const theme = computed<Theme>(() => chosen.value || (system.value ? 'dark' : 'light'))
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
  const toggle = () => (chosen.value = theme.value === 'dark' ? 'light' : 'dark')

  return { theme, token, toggle }
})
