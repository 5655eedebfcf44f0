import { tableOf } from '../../calc/answer'
import { HypometError } from '../../error'
import type { Table } from '../../method/table'
import type { ResultTable } from '../../method/reduction'
import type { Warning } from '../../warning'
import { largestWave, wavesAround } from '../../signal/circumference'

export interface RingGauge {
  channel: string
  /** rad */
  angle: number
}

export interface RingWaves {
  /** Of the largest wave; null where the ring cannot tell. */
  number: number | null
  table: ResultTable
  warning: Warning | null
}

/** Waves of the deflections of a ring of gauges at a sample, against those at the first. */
export function waveAround(
  channels: Table['channels'],
  sample: number,
  ring: readonly RingGauge[] | undefined,
): RingWaves | null {
  if (!ring || ring.length === 0) return null
  const gauges = ring
    .map(({ channel, angle }, i) => {
      const y = channels[channel]
      if (!y)
        throw new HypometError('setting-range', `The ring names “${channel}”, which the record does not hold.`, {
          path: `settings.ring.${i}.channel`,
        })
      return { angle, value: y[sample]! }
    })
    .filter(g => Number.isFinite(g.value))
  const waves = wavesAround(
    gauges.map(g => g.angle),
    gauges.map(g => g.value),
  )
  const most = Math.floor((gauges.length - 1) / 2)
  const largest = largestWave(waves)
  const table = tableOf(
    waves.map(w => ({ waveNumber: w.number, amplitude: w.amplitude, crest: w.phase })),
    { waveNumber: '1', amplitude: 'm', crest: 'rad' },
  )
  if (most < 2 || !largest)
    return {
      number: null,
      table,
      warning: {
        code: 'ring-too-few',
        message:
          `A ring of ${gauges.length} gauges tells waves up to ${Math.max(0, most)} apart: five or more ` +
          `are needed for the first that dents a shell.`,
      },
    }
  const isLast = largest.number === most
  return {
    number: isLast ? null : largest.number,
    table,
    warning: isLast
      ? {
          code: 'ring-too-few',
          message:
            `The largest wave is the highest that ${gauges.length} gauges can tell (${most}): there may be ` +
            `more waves, which look like this one. It takes at least ${2 * most + 3} gauges to say.`,
        }
      : null,
  }
}
