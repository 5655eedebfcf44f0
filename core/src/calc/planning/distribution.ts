import * as z from 'zod'
import { quantity } from '../../method/settings'

/** A load per length that runs straight between stations along a span, N/m over m. */
export interface Station {
  y: number
  load: number
}

export const stationFields = {
  y: quantity('length', { title: 'Station' }),
  load: quantity('loadPerLength', { title: 'Load per length' }),
}

export function checkRising(stations: readonly { y: number }[], ctx: z.core.$RefinementCtx, path: string): void {
  stations.forEach((s, i) => {
    if (i > 0 && !(s.y > stations[i - 1]!.y))
      ctx.issues.push({
        code: 'custom',
        message: 'Stations must follow one another along the span.',
        params: { code: 'setting-range' },
        input: undefined,
        path: [path, i, 'y'],
      })
  })
}

/** Value at y, straight between stations; nothing beyond them. */
export function valueAt(stations: readonly { y: number }[], key: (i: number) => number, y: number): number {
  const i = Math.max(0, Math.min(stations.length - 2, stations.findIndex((s, k) => k > 0 && y <= s.y) - 1))
  const [a, b] = [stations[i]!, stations[i + 1]!]
  return key(i) + ((key(i + 1) - key(i)) * (y - a.y)) / (b.y - a.y)
}

/** Total [N] and moment about y = 0 [N·m] of the load between two places; exact for straight pieces. */
export function loadBetween(stations: readonly Station[], from: number, to: number): { force: number; moment: number } {
  let [force, moment] = [0, 0]
  for (let i = 1; i < stations.length; i++) {
    const [low, high] = [Math.max(from, stations[i - 1]!.y), Math.min(to, stations[i]!.y)]
    if (!(high > low)) continue
    const [p, q] = [valueAt(stations, k => stations[k]!.load, low), valueAt(stations, k => stations[k]!.load, high)]
    const width = high - low
    force += (width * (p + q)) / 2
    // ∫ (p + (q − p)·s/width)·(low + s) ds
    moment += low * ((width * (p + q)) / 2) + width ** 2 * (p / 6 + q / 3)
  }
  return { force, moment }
}
