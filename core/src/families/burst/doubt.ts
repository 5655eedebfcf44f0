import type { ReadingDoubt, ResultScatter } from '../../family/contract'
import type { BurstSettings } from './settings'
import { worstHold } from './reduce'

const PER_HOUR = 3600 * 100

/**
 * The slope of a hold scatters as its readings do, those that hang together counted as fewer; what the sensors are off
 * by comes on top.
 */
export const burstDoubt: ReadingDoubt<BurstSettings> = {
  scatter(_, __, { tables }): Record<string, ResultScatter> {
    const worst = worstHold(tables)
    if (!worst || worst.readings <= 2 || !(worst.standardError > 0)) return {}
    const u = (worst.standardError / PER_HOUR) * Math.sqrt(Math.max(1, worst.n / worst.readings))
    return { largestLeak: { u, dof: Math.max(1, worst.readings - 2) } }
  },
}
