import type { ReadingDoubt } from '../../family/contract'
import type { Table } from '../../method/table'
import type { Noise } from '../../signal/noise'
import type { FlowSettings } from './settings'

/** Readings hang together from one to the next by no more than that. */
const SLOWEST = 0.95
const SILENT: Noise = { sigma: 0, phi: 0 }

/**
 * Rows of one configuration at one lift, or at one place, read the same again: what they scatter by, together, is what
 * a reading scatters by. A lift is set by a stop, and shut is shut.
 *
 * @source JCGM 100:2008, 4.2.4 (a pooled estimate of variance); Kendall (1954), on serial correlation
 */
export const flowDoubt: ReadingDoubt<FlowSettings> = {
  isSet: (role, value) => role === 'lift' && value === 0,
  noise(table, s): Record<string, Noise> {
    const { channels } = table
    const [read, places] = s.kind === 'map' ? [channels['v'] ? 'v' : 'q', ['x', 'y']] : ['flow', ['lift']]
    // As it would be at one difference of pressure: a bench is not set to the same one twice.
    const drop = channels['drop']
    const of = (i: number) => channels[read]![i]! / (drop ? Math.sqrt(drop[i]! / drop[0]!) : 1)
    const pooled = pooledScatter(groupsOf(table, places), of)
    if (!pooled) return {}
    const others = [...places, 'drop', 'temperature', 'baro'].map(role => [role, SILENT])
    return { ...Object.fromEntries(others), [read]: pooled }
  },
}

function groupsOf({ channels, text }: Table, places: readonly string[]): number[][] {
  const groups = new Map<string, number[]>()
  const rows = channels[places[0]!]!
  for (let i = 0; i < rows.length; i++) {
    const key = JSON.stringify([text?.['config']?.[i], ...places.map(p => channels[p]![i]!.toFixed(6))])
    groups.set(key, [...(groups.get(key) ?? []), i])
  }
  return [...groups.values()]
}

/**
 * Standard deviation about the means of groups, and how the rows' residuals hang together as they were read; null where
 * none was read twice, or all came out alike.
 */
function pooledScatter(groups: readonly number[][], of: (i: number) => number): Noise | null {
  let [sum, dof] = [0, 0]
  const residuals: [row: number, e: number][] = []
  for (const group of groups) {
    const rows = group.filter(i => Number.isFinite(of(i)))
    if (rows.length < 2) continue
    const mean = rows.reduce((s, i) => s + of(i), 0) / rows.length
    for (const i of rows) residuals.push([i, of(i) - mean])
    dof += rows.length - 1
  }
  residuals.sort((a, b) => a[0] - b[0])
  let next = 0
  residuals.forEach(([, e], k) => {
    sum += e * e
    if (k > 0) next += e * residuals[k - 1]![1]
  })
  if (!(dof > 0 && sum > 0)) return null
  const [n, r] = [residuals.length, next / sum]
  // Of few readings a correlation comes out low, by (1 + 4·φ)/n.
  const phi = r > 2 / Math.sqrt(n) ? Math.min((r + 1 / n) / (1 - 4 / n), SLOWEST) : 0
  return { sigma: Math.sqrt(sum / dof), phi, dof }
}
