import { timeWindow } from '../method/settings'

/** The window at the start over which a reduction took its zero, s; null where it took none. */
export function zeroWindow(settings: Readonly<Record<string, unknown>>): { from: number; to: number } | null {
  if (settings['zeroStart'] == null) return null
  const { data } = timeWindow().safeParse(settings['zeroStart'])
  return data ? { from: data[0], to: data[1] } : null
}

/** Where a reduction took its zero, of its settings; null for kinds of test that take none. */
export function zeroOf(
  family: { ownOfRecord: readonly string[] } | undefined,
  settings: Readonly<Record<string, unknown>>,
): string | null {
  if (!family?.ownOfRecord.some(key => key.startsWith('zero'))) return null
  const [start, end] = ['zeroStart', 'zeroEnd'].map(key => Array.isArray(settings[key]))
  return start && end ? 'at the start and the end' : start ? 'at the start' : end ? 'at the end' : 'nowhere'
}

/**
 * Says where things that are compared had their zeros taken differently; null where they were done alike.
 *
 * @example unlikeZeros([{ name: 'A', zero: 'at the start' }, { name: 'B', zero: 'nowhere' }])
 *   // 'Zeros were not taken alike: at the start (A); nowhere (B).'
 */
export function unlikeZeros(members: readonly { name: string; zero: string | null }[]): string | null {
  const ways = [...new Set(members.flatMap(m => (m.zero === null ? [] : [m.zero])))]
  if (ways.length < 2) return null
  const said = ways.map(w => `${w} (${members.flatMap(m => (m.zero === w ? [m.name] : [])).join(', ')})`)
  return `Zeros were not taken alike: ${said.join('; ')}.`
}
