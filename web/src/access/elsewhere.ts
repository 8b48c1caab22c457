/** Why who is known elsewhere was not let in here, by the word that the server sends back with. */
const REFUSED: Record<string, string> = {
  groups: 'You are known there, but none of your groups is let in here: ask who administers.',
  off: 'Your account here is switched off: ask who administers.',
  away: 'The database does not answer: try again in a moment.',
}

/**
 * @returns a sentence; empty where nothing was refused
 */
export const refusalInWords = (why: string) =>
  why &&
  (REFUSED[why] ??
    'That did not work: it did not answer, or took too long. Try again; the server’s log says more.')

const KEPT = 'page asked for'

/** Goes there to be known, and remembers what was asked for. */
export function goElsewhere() {
  const { pathname, search } = location
  sessionStorage.setItem(KEPT, pathname === '/enter' ? '/' : pathname + search)
  location.assign('/sign-on/company')
}

/** What was asked for before one went there, once. */
export function askedFor() {
  const page = sessionStorage.getItem(KEPT)
  sessionStorage.removeItem(KEPT)
  return page
}
