import { computed, ref, shallowRef } from 'vue'
import { api, inWords, whenStranger } from '@/api/client'
import type { Me, Role } from '@/api/types'

/** In this order: each may what those before it may. */
export const ROLES: Role[] = ['look', 'act', 'shape', 'administer']

/** What each may, in words. */
export const ROLE_WORDS: Record<Role, string> = {
  look: 'sees, changes nothing',
  act: 'acknowledges, comments, sets markers and maintenance',
  shape: 'limits, recipes, arrangements, baselines, instances',
  administer: 'accounts, credentials, what is kept',
}

const me = shallowRef<Me>()
/** Who was here since the page was opened: what is shown is theirs. */
const been = ref('')
const failure = ref('')

function take(told: Me) {
  if (told.name && been.value && been.value !== told.name) {
    // nothing of the one before is left; a key lets in once
    if (location.pathname === '/enter') location.replace('/')
    else location.reload()
    return
  }
  me.value = told
  been.value = told.name ?? been.value
}

function stranger() {
  if (me.value?.name)
    me.value = { name: null, role: null, scope: [], first: false, elsewhere: me.value.elsewhere }
}
whenStranger(stranger)

let asking: Promise<boolean> | undefined
/**
 * Whether who was signed in still is, asked of the server; one that does not answer signs nobody
 * out.
 */
export function isHere(): Promise<boolean> {
  if (!me.value?.name) return Promise.resolve(false)
  asking ??= api
    .me()
    .then(
      (told) => told.name !== null,
      () => true,
    )
    .then((here) => {
      if (!here) stranger()
      asking = undefined
      return here
    })
  return asking
}

/** Who is signed in here, and how one comes in and goes. */
export function useMe() {
  async function load() {
    failure.value = ''
    try {
      take(await api.me())
    } catch (e) {
      failure.value = inWords(e)
    }
  }
  const signIn = async (name: string, password: string) => take(await api.signIn(name, password))
  const makeFirst = async (key: string, name: string, password: string) =>
    take(await api.makeFirst({ key, name, password }))
  /** @returns whether the first administrator is to be made by it */
  async function enter(key: string) {
    const told = await api.enter(key)
    if (told.first) return true
    take(told)
    return false
  }
  async function leave(everywhere = false) {
    await (everywhere ? api.signOutEverywhere() : api.signOut())
    // a page of its own: nothing that was shown is left
    location.assign('/')
  }
  const may = (role: Role) =>
    ROLES.indexOf((me.value?.role ?? 'look') as Role) >= ROLES.indexOf(role)

  /** Whether the whole estate is theirs. */
  const whole = () => !me.value?.scope.length
  /** Whether they may what is about the whole estate. */
  const mayOfAll = (role: Role) => may(role) && whole()

  return {
    me,
    been,
    failure,
    load,
    signIn,
    makeFirst,
    enter,
    leave,
    may,
    whole,
    mayOfAll,
    name: computed(() => me.value?.name ?? ''),
  }
}
