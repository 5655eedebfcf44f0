import * as z from 'zod'
import { plain, quantity } from '../method/settings'
import type { ChannelView } from './channels'
import { stop, warn, type Finding } from './finding'
import { percent } from './percent'

/** The logger that records the channels. */
export const acquisitionField = z
  .object({
    bits: plain({ title: 'Converter bits', whole: true, min: 8, max: 32 }).default(16),
    headroom: plain({ title: 'Converter range over full scale', min: 1, max: 20 }).default(1.25),
    bytes: quantity('bytes', { title: 'Bytes a sample', positive: true }).default(4),
    network: quantity('byteRate', { title: 'Network carries', positive: true }).optional(),
    disk: quantity('bytes', { title: 'Room on the disk', positive: true }).optional(),
  })
  .prefault({})
  .meta({ title: 'Logger' })

export type Acquisition = z.output<typeof acquisitionField>

export interface DataView {
  /** B/s and B. */
  byteRate: number
  volume: number
  networkUse: number | null
  diskUse: number | null
  /** By rate, fastest first. */
  groups: { rate: number; channels: number; byteRate: number }[]
  /** Converter steps that the expected reading of each channel spans; null where nothing is expected. */
  counts: (number | null)[]
}

/** Beyond which there is no room for what was not planned. */
const FULL = 0.9

export function dataView(a: Acquisition, channels: readonly ChannelView[], duration: number): DataView {
  const read = channels.filter(c => c.expression === null)
  const groups = [...new Set(read.map(c => c.rate))]
    .sort((x, y) => y - x)
    .map(rate => {
      const n = read.filter(c => c.rate === rate).length
      return { rate, channels: n, byteRate: n * rate * a.bytes }
    })
  const byteRate = groups.reduce((s, g) => s + g.byteRate, 0)
  const volume = byteRate * duration
  return {
    byteRate,
    volume,
    groups,
    networkUse: a.network === undefined ? null : byteRate / a.network,
    diskUse: a.disk === undefined ? null : volume / a.disk,
    counts: channels.map(c =>
      c.utilisation === null ? null : Math.floor((c.utilisation / a.headroom) * 2 ** (a.bits - 1)),
    ),
  }
}

/** Steps over which a reading is spread below which the converter itself is what is seen. */
const FEW_COUNTS = 200

export function dataFindings(view: DataView, channels: readonly ChannelView[]): Finding[] {
  const list: Finding[] = []
  if (view.networkUse !== null && view.networkUse > FULL)
    list.push(
      stop(
        'network-full',
        'acquisition.network',
        `The channels fill ${percent(view.networkUse)} of the network.`,
        'Record the slow channels slower, or the fast ones at the logger.',
      ),
    )
  if (view.diskUse !== null && view.diskUse > FULL)
    list.push(
      stop(
        'disk-full',
        'acquisition.disk',
        `The ladder fills ${percent(view.diskUse)} of the disk.`,
        'Make room, or put fewer channels in the fastest class.',
      ),
    )
  view.counts.forEach((n, i) => {
    if (n !== null && n > 0 && n < FEW_COUNTS)
      list.push(
        warn(
          'few-counts',
          `channels.${i}.sensorId`,
          `${channels[i]!.label} will span ${n} converter steps.`,
          'A smaller sensor, a gain, or a converter with more bits.',
        ),
      )
  })
  return list
}
