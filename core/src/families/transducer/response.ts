import { HypometError } from '../../error'
import { exact, tableOf } from '../../calc/answer'
import { rowsWith } from '../../method/rows'
import type { Table } from '../../method/table'
import type { Reduction } from '../../method/reduction'
import { fallTo } from '../../signal/fall'
import type { Warning } from '../../warning'
import { topOf, type Top } from './lobe'
import type { TransducerSettings } from './settings'

const MICROPASCAL = 1e-6
const FEWEST = 3

/**
 * Response over frequency: transmitting, dB about 1 µPa·m a volt, or receiving, dB about 1 V a µPa; its top, and the
 * bands three and six decibels below it.
 *
 * @param table  frequency [Hz]; pressure [Pa] or level [dB about 1 µPa]; voltage [V] and distance [m], or as settings
 * @throws HypometError `missing-channel`; `data-range` below three rows, for a frequency twice, or for nothing
 * @source IEC 60500; methods.md, “transducer”
 */
export function reduceResponse(table: Table, s: TransducerSettings): Reduction {
  const isTransmit = s.response === 'transmit'
  const name = isTransmit ? 'transmitResponse' : 'receiveSensitivity'
  const { frequency, level } = responseRows(table, s)
  const top = topOf(frequency, level)
  const warnings: Warning[] = []
  const band = (down: number) => {
    const width = bandOf(frequency, level, top, down)
    if (width === null)
      warnings.push({ code: 'band-open', message: `The response does not fall by ${down} dB on both sides.` })
    return exact(width, 'Hz')
  }
  return {
    results: {
      ...(isTransmit
        ? { peakTransmitResponse: exact(top.level, 'dB'), peakTransmitAt: exact(top.at, 'Hz') }
        : { peakReceiveSensitivity: exact(top.level, 'dB'), peakReceiveAt: exact(top.at, 'Hz') }),
      bandwidth3dB: band(3),
      bandwidth6dB: band(6),
    },
    tables: {
      response: tableOf(
        Array.from(frequency, (f, i) => ({ frequency: f, [name]: level[i]! })),
        { frequency: 'Hz', [name]: 'dB' },
      ),
    },
    warnings,
    traces: { responseFrequency: frequency, response: level },
  }
}

/** Width between the falls to so many decibels below the top on either side of the largest row; null where open. */
function bandOf(frequency: Float64Array, level: Float64Array, top: Top, down: number): number | null {
  const [low, high] = ([-1, 1] as const).map(side => fallTo(level, top.row, side, top.level - down, frequency))
  return low == null || high == null ? null : high - low
}

function responseRows(table: Table, s: TransducerSettings): { frequency: Float64Array; level: Float64Array } {
  const isTransmit = s.response === 'transmit'
  const read = (role: string) => table.channels[role] !== undefined
  const sound = read('pressure') ? 'pressure' : 'level'
  const constant = (role: 'voltage' | 'distance') => (read(role) ? undefined : s[role])
  const needed = [sound, 'voltage', ...(isTransmit ? ['distance'] : [])]
  for (const role of needed)
    if (!read(role) && (role === sound || constant(role as 'voltage' | 'distance') === undefined))
      throw new HypometError('missing-channel', `A response needs a ${role}.`, { path: `channels.${role}` })
  const { channels } = rowsWith(table, ['frequency', ...needed])
  const order = Array.from(channels['frequency']!.keys()).sort(
    (a, b) => channels['frequency']![a]! - channels['frequency']![b]!,
  )
  const frequency = Float64Array.from(order, i => channels['frequency']![i]!)
  const above = (value: number, role: string): number => {
    if (value > 0) return value
    throw new HypometError('data-range', `Every ${role} is above zero.`, { path: `channels.${role}` })
  }
  const level = Float64Array.from(order, i => {
    const volts = above(constant('voltage') ?? channels['voltage']![i]!, 'voltage')
    const micropascals =
      sound === 'pressure'
        ? 20 * Math.log10(above(channels['pressure']![i]!, 'pressure') / MICROPASCAL)
        : channels['level']![i]!
    if (!isTransmit) return 20 * Math.log10(volts) - micropascals
    const metres = above(constant('distance') ?? channels['distance']![i]!, 'distance')
    return micropascals + 20 * Math.log10(metres / volts)
  })
  if (frequency.length < FEWEST || frequency.some((f, i) => i > 0 && f === frequency[i - 1]))
    throw new HypometError('data-range', 'A response needs at least three rows, each of its own frequency.', {
      path: 'channels.frequency',
    })
  return { frequency, level }
}
