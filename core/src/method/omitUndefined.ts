/** What is said at all: entries without those that are undefined. */
export const omitUndefined = <V>(entries: Readonly<Record<string, V | undefined>>): Record<string, V> =>
  Object.fromEntries(Object.entries(entries).filter((e): e is [string, V] => e[1] !== undefined))
