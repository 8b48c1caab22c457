import type { Directive } from 'vue'
import type { Role } from '@/api/types'
import { useMe } from './useMe'

/** What takes a role is not there for who has not got it; the server refuses it all the same. */
export const vMay: Directive<HTMLElement, Role> = (element, { value }) => {
  element.hidden = !useMe().may(value)
}
