/**
 * What a table holds by a name that somebody wrote: `constructor` and its like are names as others.
 *
 * @example lookUp({ kg: 1 }, 'toString') // undefined
 */
export const lookUp = <T>(table: Readonly<Record<string, T>>, name: string): T | undefined =>
  Object.hasOwn(table, name) ? table[name] : undefined
