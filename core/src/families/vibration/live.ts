import { figure, Recent, type LiveFrom, type LiveKind, type LiveReader, type LiveSaid } from '../../rig/liveReader'
import { prominentPeaks } from '../../signal/peaks'
import { frequencyResponse, type FrequencyResponse } from '../../signal/welch'
import type { VibrationPlan } from './plan'

/** So many samples are looked at, in segments of so many. */
const [KEPT, SEGMENT] = [8192, 1024]
/** A drive whose largest line holds this share of its power is one tone. */
const TONE = 0.6
/** A resonance stands out by this much of its height; of a sweep it is passed once the ratio has fallen by so much. */
const [STANDS_OUT, PASSED] = [0.3, 0.9]
/** A tone's ratio is read over so many s. */
const TONE_OVER = 0.5

interface Looked {
  rms: number
  /** Of a tone, Hz; null for a random drive. */
  frequency: number | null
  ratio: number
  resonance: { frequency: number; ratio: number } | null
}

class VibrationReader implements LiveReader {
  private readonly recent: Recent
  private readonly response: string
  private swept: { frequency: number; ratio: number }[] = []
  private found: { frequency: number; ratio: number } | null = null
  private looked: Looked | null = null
  private at = NaN
  private rung = -1

  constructor(private readonly o: LiveFrom<VibrationPlan>) {
    const responses = o.view.channels.filter(
      c => c.role !== 'drive' && c.kind === 'acceleration' && c.expression === null,
    )
    this.response = responses.find(c => c.role === 'response')?.role ?? responses[0]?.role ?? 'response'
    this.recent = new Recent(['drive', this.response], Infinity, KEPT)
  }

  feed(...[block, now]: Parameters<LiveReader['feed']>): LiveSaid[] {
    if (now.rung !== this.rung) {
      this.recent.clear()
      this.looked = null
    }
    this.rung = now.rung
    this.recent.feed(block)
    const newest = this.recent.t.at(-1) ?? 0
    if (newest - this.at < TONE_OVER) return []
    this.at = newest
    this.looked = this.look()
    const resonance = this.looked?.resonance ?? null
    const isNews = resonance !== null && this.found === null
    this.found = resonance ?? this.found
    if (!isNews) return []
    const { show } = this.o
    const times = resonance.ratio.toPrecision(3)
    const note = `resonance at ${show(resonance.frequency, 'frequency')}, ${times} times the drive`
    return [{ kind: 'resonance', t: newest, note, value: null, reading: null }]
  }

  /** Level, tone and response of what was read last; null before a segment is there. */
  private look(): Looked | null {
    const { t, channels } = this.recent
    if (t.length < SEGMENT) return null
    const rate = (t.length - 1) / (t.at(-1)! - t[0]!)
    const [drive, response] = [channels['drive']!, channels[this.response]!].map(y =>
      Float64Array.from(y, v => (Number.isFinite(v) ? v : 0)),
    ) as [Float64Array, Float64Array]
    const recent = Math.min(t.length, Math.max(SEGMENT, Math.round(TONE_OVER * rate)))
    const rms = rmsOf(drive.subarray(t.length - recent))
    if (!(rms > 0)) return null
    const ratio = rmsOf(response.subarray(t.length - recent)) / rms
    const newest = frequencyResponse(drive.subarray(-SEGMENT), response.subarray(-SEGMENT), rate, SEGMENT)
    const frequency = toneOf(newest)
    if (frequency !== null) return { rms, frequency, ratio, resonance: this.passed(frequency, ratio) }
    const whole = t.length >= 4 * SEGMENT ? frequencyResponse(drive, response, rate, SEGMENT) : newest
    return { rms, frequency: null, ratio, resonance: peakOf(whole, this.o.plan) }
  }

  /** The largest ratio so far, once the sweep has left it on either side. */
  private passed(frequency: number, ratio: number): { frequency: number; ratio: number } | null {
    this.swept.push({ frequency, ratio })
    const top = this.swept.reduce((m, p) => (p.ratio > m.ratio ? p : m))
    const [low, high] = [this.swept[0]!, this.swept.at(-1)!]
    return top.ratio > 1 && low.ratio < PASSED * top.ratio && high.ratio < PASSED * top.ratio ? top : null
  }

  figures(...[now]: Parameters<LiveReader['figures']>): ReturnType<LiveReader['figures']> {
    const { looked, found } = this
    const { plan, view } = this.o
    const target = view.rungs[now.rung]?.target ?? null
    return [
      figure('level', 'Level, rms', 'acceleration', looked?.rms, { predicted: target === 0 ? null : target }),
      figure('frequency', 'Frequency', 'frequency', looked?.frequency, {
        note: looked && looked.frequency === null ? 'random drive' : '',
      }),
      figure('ratio', 'Response over drive', 'ratio', looked?.ratio),
      figure('firstFrequency', 'Resonance', 'frequency', found?.frequency, {
        predicted: plan.before?.[0]?.frequency ?? null,
        note: found ? `${found.ratio.toPrecision(3)} times the drive` : 'none found yet',
      }),
    ]
  }
}

const rmsOf = (y: Float64Array): number => Math.sqrt(y.reduce((s, v) => s + v * v, 0) / y.length)

/** Hz of a drive that is one tone, between its bins by their weight; null where its power is spread. */
function toneOf({ frequency, driveDensity }: FrequencyResponse): number | null {
  const total = driveDensity.reduce((s, v) => s + v, 0)
  const top = driveDensity.reduce((m, v, k) => (v > driveDensity[m]! ? k : m), 1)
  let [power, weighed] = [0, 0]
  for (let k = Math.max(1, top - 2); k <= Math.min(driveDensity.length - 1, top + 2); k++) {
    power += driveDensity[k]!
    weighed += driveDensity[k]! * frequency[k]!
  }
  return total > 0 && power > TONE * total ? weighed / power : null
}

/** The highest peak of a response that stands out, in the plan's band. */
function peakOf(
  { frequency, h1 }: FrequencyResponse,
  { bandFrom = 0, bandTo = Infinity }: VibrationPlan,
): { frequency: number; ratio: number } | null {
  const size = Float64Array.from(h1.re, (re, k) => Math.hypot(re, h1.im[k]!))
  const from = Math.max(
    2,
    frequency.findIndex(f => f >= bandFrom),
  )
  const beyond = frequency.findIndex(f => f > bandTo)
  const to = Math.min(beyond < 0 ? frequency.length : beyond, Math.floor(0.9 * frequency.length))
  const peaks = prominentPeaks(size, from, to, 0).filter(k => size[k]! > 1)
  const top = peaks.reduce((m, k) => (m < 0 || size[k]! > size[m]! ? k : m), -1)
  if (top < 0) return null
  const [standing] = prominentPeaks(size, from, to, STANDS_OUT * size[top]!).filter(k => k === top)
  return standing === undefined ? null : { frequency: frequency[top]!, ratio: size[top]! }
}

export const vibrationLive: LiveKind<VibrationPlan> = {
  reader: from => new VibrationReader(from),
  isLively: true,
  overTime: true,
}
