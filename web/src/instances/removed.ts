/** What becomes of instances that are removed, said before they are. */
export const whatIsKept = (names: string[]) =>
  `${names.join(', ')}: not read any more from now on. Readings, alerts and markers so far are kept in the store for as long as the store is; nothing ages out yet. Limits set on the instance itself and its password are not used any more.`
