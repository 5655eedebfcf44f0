import { HypometError } from '../error'
import type { Warning } from '../warning'
import type { Section } from './sections'

export const CHANNEL_CLASSES = [60, 180, 600, 1000] as const
export type ChannelClass = (typeof CHANNEL_CLASSES)[number]

const RATE_WANTED = 10
/** At this many samples per second and class, ωd·T reaches π and there is no filter any more. */
const RATE_REFUSED = 4.155

/**
 * Channel frequency class filter for impact data, one direction; to be run forward and backward.
 *
 * @param sampleInterval  s
 * @throws HypometError `setting-range` when the sample rate is too low for the class
 * @source SAE J211-1, appendix C
 */
export function channelClassSection(cfc: number, sampleInterval: number): Section {
  const rate = 1 / sampleInterval
  if (rate <= RATE_REFUSED * cfc)
    throw new HypometError(
      'setting-range',
      `${rate.toPrecision(4)} samples per second are too few for class ${cfc}: more than ${RATE_REFUSED * cfc} ` +
        `are needed.`,
      { path: 'settings.cfc' },
    )
  const wd = 2 * Math.PI * cfc * 2.0775
  const wa = Math.tan((wd * sampleInterval) / 2)
  const scale = 1 / (1 + Math.SQRT2 * wa + wa * wa)
  const b0 = wa * wa * scale
  return { b0, b1: 2 * b0, b2: b0, a1: 2 * (wa * wa - 1) * scale, a2: (1 - Math.SQRT2 * wa + wa * wa) * scale }
}

/** A sample rate below ten times the class is worth a word. */
export const rateWarnings = (cfc: number, sampleInterval: number): Warning[] =>
  1 / sampleInterval < RATE_WANTED * cfc * (1 - 1e-9)
    ? [{ code: 'low-rate', message: `The sample rate is below ${RATE_WANTED} times the class ${cfc}.` }]
    : []
