import { HypometError } from '../../error'
import { exact, tableOf } from '../../calc/answer'
import type { Table } from '../../method/table'
import type { Reduction, Result, ResultTable } from '../../method/reduction'
import type { Warning } from '../../warning'
import { evenInterval } from '../../signal/evenTime'
import { hasGap } from '../../signal/gaps'
import { prominentPeaks } from '../../signal/peaks'
import { frequencyResponse, type FrequencyResponse } from '../../signal/welch'
import { modeAt, type Mode } from './mode'
import { trueHalfWidth } from './resolution'
import type { VibrationSettings } from './settings'
import { modeShapes } from './shapes'
import { bandOf, withinTolerance } from './tolerance'

/**
 * Vibration reduction: levels in a band, and of each response the modes that stand out of its frequency response to the
 * drive.
 *
 * @param table  drive and free responses [m/s²], even time base
 * @throws HypometError `data-range` where the record is shorter than a segment, `setting-range` for a band that it does
 * not reach
 * @source methods.md, “vibration”; Bendat & Piersol, Random Data, ch. 6
 */
export function reduceVibration({ t, channels, units }: Table, s: VibrationSettings): Reduction {
  const rate = 1 / evenInterval(t)
  const drive = channels['drive']!
  if (s.nperseg > drive.length)
    throw new HypometError(
      'data-range',
      `A segment of ${s.nperseg} samples is longer than the record of ${drive.length}: shorten the segments, ` +
        `which widens their bins.`,
      { path: 'settings.nperseg' },
    )
  const responses = Object.entries(channels).filter(([r, y]) => r !== 'drive' && units[r] === 'm/s²' && !hasGap(y))
  if (responses.length === 0)
    throw new HypometError('missing-channel', 'A response [m/s²] without gaps is needed beside the drive.', {
      path: 'channels',
    })
  const spectra = responses.map(([channel, y]) => ({ channel, ...frequencyResponse(drive, y, rate, s.nperseg) }))
  const { frequency, driveDensity } = spectra[0]!
  const [from, to] = binsIn(frequency, s.band)
  if (to - from < 3)
    throw new HypometError(
      'setting-range',
      `Fewer than three bins of ${(rate / s.nperseg).toPrecision(3)} Hz lie in this band: choose a wider one, or ` +
        `longer segments.`,
      { path: 'settings.band' },
    )
  const rms = (density: Float64Array) =>
    Math.sqrt(density.subarray(from, to).reduce((a, b) => a + b, 0) * frequency[1]!)
  const sizes = spectra.map(r => Float64Array.from(r.h1.re, (re, k) => Math.hypot(re, r.h1.im[k]!)))
  const modes = spectra.flatMap((r, i) => modesOf(r, sizes[i]!, r.channel, from, to, s.prominence))
  const first = modes.find(m => m.channel === spectra[0]!.channel)
  const own = modes.filter(m => m.channel === spectra[0]!.channel)
  const comparison = s.before && own.length > 0 ? compared(s, own) : null
  const shapes = modeShapes(s, spectra, own)
  const tolerance = s.specification
    ? withinTolerance(frequency, driveDensity, s.specification, s.tolerance, from, to)
    : null
  // A peak is placed between bins: half of one either way.
  const uBin = rate / s.nperseg / (2 * Math.sqrt(3))
  const between = (value: number | null, unit: string, u: number): Result =>
    value === null ? exact(null, unit) : { value, unit, bound: 'exact', u, k: 2 }
  return {
    results: {
      rmsDrive: exact(rms(driveDensity), 'm/s²'),
      firstFrequency: between(first?.frequency ?? null, 'Hz', uBin),
      firstDamping: exact(first?.damping ?? null, '1'),
      firstDampingCorrected: exact(first ? resolvedDamping(first, rate / s.nperseg) : null, '1'),
      firstAmplitude: exact(first?.amplitude ?? null, '1'),
      firstCoherence: exact(first?.coherence ?? null, '1'),
      ...(s.minFrequency === undefined
        ? {}
        : {
            frequencyMargin: between(first ? first.frequency / s.minFrequency - 1 : null, '1', uBin / s.minFrequency),
          }),
      ...(comparison ? { largestShift: exact(comparison.largest, '1') } : {}),
      ...(tolerance ? { outsideTolerance: exact(tolerance.share, '1') } : {}),
    },
    tables: {
      levels: tableOf(
        [
          { channel: 'drive', rms: rms(driveDensity) },
          ...spectra.map(r => ({ channel: r.channel, rms: rms(r.responseDensity) })),
        ],
        { channel: '', rms: 'm/s²' },
      ),
      modes: tableOf(
        modes.map(({ channel, frequency: f, damping, amplitude, coherence }) => ({
          channel,
          frequency: f,
          damping,
          amplitude,
          coherence,
        })),
        { channel: '', frequency: 'Hz', damping: '1', amplitude: '1', coherence: '1' },
      ),
      ...(comparison ? { comparison: comparison.table } : {}),
      ...shapes.tables,
    },
    warnings: [
      ...(first
        ? []
        : [
            {
              code: 'no-mode',
              message: 'No mode stands out in this band: widen it, lengthen the segments or lower the prominence.',
            },
          ]),
      ...resolutionWarning(own, rate / s.nperseg),
      ...shapes.warnings,
      ...(tolerance && tolerance.share > 0
        ? [
            {
              code: 'outside-tolerance',
              message: `The drive left its tolerance in ${(100 * tolerance.share).toPrecision(2)} % of the band.`,
            },
          ]
        : []),
    ],
    traces: {
      frequency,
      driveDensity,
      t,
      drive,
      first: responses[0]![1],
      ...Object.fromEntries(
        spectra.flatMap((r, i) => [
          [`size:${r.channel}`, sizes[i]!],
          [`coherence:${r.channel}`, r.coherence],
          [`density:${r.channel}`, r.responseDensity],
        ]),
      ),
      ...(s.specification ? { specified: bandOf(frequency, s.specification) } : {}),
    },
  }
}

const binsIn = (frequency: Float64Array, [low, high]: readonly [number, number]): [number, number] => {
  const from = frequency.findIndex(f => f >= low - 1e-9)
  return [from < 0 ? frequency.length : from, frequency.findLastIndex(f => f <= high + 1e-9) + 1]
}

function modesOf(
  { frequency, coherence }: Pick<FrequencyResponse, 'frequency' | 'coherence'>,
  size: Float64Array,
  channel: string,
  from: number,
  to: number,
  prominence: number,
): Mode[] {
  const largest = size.subarray(from, to).reduce((m, v) => Math.max(m, v), 0)
  const df = frequency[1]!
  return prominentPeaks(size, from, to, prominence * largest).map(bin => ({
    channel,
    bin,
    coherence: coherence[bin]!,
    ...modeAt(size, bin, df),
  }))
}

/** Damping with what the segments widened it by taken off; null where it is their own width. */
function resolvedDamping({ damping, frequency }: Mode, df: number): number | null {
  const behind = damping === null ? null : trueHalfWidth((damping * frequency) / df)
  return behind && (behind.half * df) / frequency
}

/** Each mode of before beside the nearest of now. A shift beyond the verdict's share is a change of the article. */
function compared(s: VibrationSettings, modes: Mode[]): { table: ResultTable; largest: number } {
  const rows = s.before!.map(b => {
    const now = modes.reduce((a, m) =>
      Math.abs(m.frequency - b.frequency) < Math.abs(a.frequency - b.frequency) ? m : a,
    )
    const shift = now.frequency / b.frequency - 1
    return {
      frequencyBefore: b.frequency,
      frequency: now.frequency,
      deltaFrequencyPercent: 100 * shift,
      deltaDamping: now.damping === null ? null : now.damping - b.damping,
      verdict: Math.abs(shift) <= s.largestShift ? 'as before' : 'changed',
    }
  })
  return {
    largest: rows.reduce((m, r) => Math.max(m, Math.abs(r.deltaFrequencyPercent) / 100), 0),
    table: tableOf(rows, {
      frequencyBefore: 'Hz',
      frequency: 'Hz',
      deltaFrequencyPercent: '%',
      deltaDamping: '1',
      verdict: '',
    }),
  }
}

/** A half-power width of fewer than three bins is that of the window. */
function resolutionWarning(modes: Mode[], df: number): Warning[] {
  const blurred = modes.filter(m => m.damping !== null && 2 * m.damping * m.frequency < 3 * df)
  return blurred.length === 0
    ? []
    : [
        {
          code: 'low-resolution',
          message:
            `Bins of ${df.toPrecision(2)} Hz are too wide for the damping at ` +
            `${blurred.map(m => `${m.frequency.toPrecision(3)} Hz`).join(', ')}: longer segments tell it.`,
        },
      ]
}
