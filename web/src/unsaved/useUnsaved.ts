import { useEventListener } from '@vueuse/core'
import { ElMessageBox } from 'element-plus'
import { onScopeDispose } from 'vue'
import { useRouter } from 'vue-router'

/**
 * Asks before something typed is lost: as its form is closed, by whatever, as its page is left, and
 * as the tab is closed.
 *
 * @param typed what was typed, in any form that can be written as JSON
 * @param what it is called: "the limit"
 * @param leaves whether an address is not that of the form any more; without, no address closes it
 */
export function useUnsaved(
  typed: () => unknown,
  what: string,
  leaves?: (to: { path: string; query: Record<string, unknown> }) => boolean,
) {
  const router = useRouter()
  const now = () => JSON.stringify(typed())
  let before = now()
  /** What is there is as it is kept, or as it began. */
  const isKept = () => (before = now())
  const isOpen = () => now() !== before

  async function mayGo(): Promise<boolean> {
    if (!isOpen()) return true
    const sure = await ElMessageBox.confirm(
      `What was typed for ${what} has not been saved.`,
      `Leave ${what}?`,
      { confirmButtonText: 'Leave without saving', cancelButtonText: 'Go on typing' },
    ).catch(() => false)
    if (sure) isKept()
    return sure !== false
  }
  /** As a dialogue wants to know it. */
  const closing = (close: () => void) => void mayGo().then((may) => may && close())

  useEventListener(window, 'beforeunload', (event) => isOpen() && event.preventDefault())
  if (leaves) {
    const off = router.beforeEach(async (to) => !leaves(to) || (await mayGo()))
    onScopeDispose(off)
  }
  return { isKept, closing }
}
