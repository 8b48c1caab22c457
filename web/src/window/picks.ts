/** As many as stand side by side. */
export const MOST_PICKED = 8

/** The numbers of the picked instances as they stand in an address. */
export const idsOf = (pick: unknown) =>
  String(pick ?? '')
    .split(',')
    .map(Number)
    .filter((id) => Number.isInteger(id) && id > 0)
