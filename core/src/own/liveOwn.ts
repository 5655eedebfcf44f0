import { isHypometError } from '../error'
import type { Comparator } from '../judge/decide'
import { namesIn, parse } from '../expression/parse'
import { parseSettings, siLike } from '../method/settings'
import { siUnit, type Kind } from '../quantity/index'
import type { RigBlock } from '../rig/block'
import type { LadderState } from '../rig/ladder'
import { asSetting, placeWords, type DeclaredOwn } from './declared'
import { ownField, type Own } from './own'

/** A limit on a result of one’s own, SI. */
export interface OwnLimit {
  quantity: string
  name: string
  comparator: Comparator
  value: number
}

/** Where a result of one’s own stands while a run goes on. */
export interface LiveOwnResult {
  name: string
  kind: Kind
  /** In words: where it is read. */
  place: string
  /** SI; null before there is one, and where only the whole record tells it. */
  value: number | null
  /** Why it has none, or what it is not yet. */
  note: string
  limit: { name: string; comparator: Comparator; value: number; isBroken: boolean } | null
}

/** A result of one’s own has passed its limit. */
export interface OwnCrossed {
  t: number
  note: string
  value: number
}

export interface LiveOwnFrom {
  /** As the article declares them. */
  own: readonly DeclaredOwn[]
  limits: readonly OwnLimit[]
  /** Names of channels that are read or derived, and the load among them. */
  channels: readonly { role: string; kind: Kind }[]
  guide: string
  /** What a channel, or a reading that was made for these results, counts from. */
  zeroOf(role: string): number
  show(si: number, kind: Kind): string
}

type Moment = Pick<LadderState, 'rung' | 'phase'>

interface Sample {
  t: number
  y: number
  /** The load, its zero off; the channel that a slope is on. */
  guide: number
  x: number
  isHeldAt: number | null
}

/** Follows one place: the newest value that it has. */
interface Follower {
  look(s: Sample): void
  value(): number | null
  /** It will not change any more. */
  isDone?(): boolean
}

interface Followed {
  own: DeclaredOwn
  role: string
  xRole: string | null
  isZeroed: boolean
  follower: Follower | null
  note: string
  limit: OwnLimit | null
  isBroken: boolean
}

/** Names of readings that are made for these results: nobody can write them. */
const readRole = (i: number): string => ` own ${i}`
const slopeRole = (i: number): string => ` own ${i} on`
const AFTER = 'from the whole record, after the run'

/**
 * Results of one’s own as far as a run has come, each by the place that it is read at, and told when one passes its
 * limit. Steps, creep and sets are told by the whole record only. What is zeroed counts from the run’s tare.
 */
export class LiveOwn {
  private readonly followed: Followed[]
  private guide = NaN

  constructor(private readonly o: LiveOwnFrom) {
    const guideKind = o.channels.find(c => c.role === o.guide)?.kind ?? 'force'
    const unitOf = (role: string) => siUnit(o.channels.find(c => c.role === role)?.kind ?? 'ratio')
    this.followed = o.own.map((own, i) => {
      const [asked] = askedOf(own)
      const missing = asked && namesOf(asked, o.channels).find(n => !o.channels.some(c => c.role === n))
      const slope = asked && typeof asked.at === 'object' && 'slope' in asked.at ? asked.at.slope : null
      const [follower, why] = followed(missing === undefined ? asked : undefined, {
        guide: siUnit(guideKind),
        slope: slope === null ? '' : unitOf(slope),
      })
      return {
        own,
        role: readRole(i),
        xRole: slope === null ? null : slopeRole(i),
        isZeroed: asked?.zero !== null,
        follower,
        note: missing === undefined ? why : `this run has no channel “${missing}”`,
        limit: o.limits.find(l => l.quantity === own.name) ?? null,
        isBroken: false,
      }
    })
  }

  /** What has to be worked out beside the plan’s channels, for `LiveDerived`. */
  static readings(own: readonly DeclaredOwn[]): { role: string; expression: string }[] {
    return own.flatMap((o, i) => {
      const [asked] = askedOf(o)
      if (!asked) return []
      const slope = typeof asked.at === 'object' && 'slope' in asked.at ? asked.at.slope : null
      return [
        { role: readRole(i), expression: asked.reads },
        ...(slope === null ? [] : [{ role: slopeRole(i), expression: slope }]),
      ]
    })
  }

  /** Samples with the ladder’s place while they were read. */
  feed(block: RigBlock, { rung, phase }: Moment): OwnCrossed[] {
    const { guide: role, zeroOf } = this.o
    const loads = block.channels[role]
    const isHeldAt = phase === 'hold' || phase === 'waiting' || phase === 'paused' ? rung : null
    const crossed = this.followed.flatMap(f => {
      const values = block.channels[f.role]
      if (!f.follower || !values) return []
      const zero = f.isZeroed ? zeroOf(f.role) : 0
      const xs = f.xRole === null ? undefined : block.channels[f.xRole]
      const xZero = f.xRole === null ? 0 : zeroOf(f.xRole)
      for (let k = 0; k < values.length; k++) {
        const [y, guide] = [values[k]! - zero, (loads?.[k] ?? this.guide) - zeroOf(role)]
        if (Number.isFinite(y)) f.follower.look({ t: block.t[k]!, y, guide, x: (xs?.[k] ?? NaN) - xZero, isHeldAt })
      }
      return this.against(f, block.t.at(-1)!)
    })
    const last = loads?.findLast(v => Number.isFinite(v))
    if (last !== undefined) this.guide = last
    return crossed
  }

  now(): LiveOwnResult[] {
    return this.followed.map(({ own, follower, note, limit, isBroken }) => ({
      name: own.name,
      kind: own.kind,
      place: placeWords(own.at),
      value: (v => (v === null ? null : Number(v.toPrecision(7))))(follower?.value() ?? null),
      note,
      limit: limit && { name: limit.name, comparator: limit.comparator, value: limit.value, isBroken },
    }))
  }

  /** A maximum is broken as soon as it is passed; a minimum once the value has come to stay. */
  private against(f: Followed, t: number): OwnCrossed[] {
    const value = f.follower?.value() ?? null
    if (!f.limit || value === null || f.isBroken) return []
    const { comparator, value: wall, name } = f.limit
    const isBroken = comparator === 'atMost' ? value > wall : f.follower!.isDone?.() === true && value < wall
    if (!isBroken) return []
    f.isBroken = true
    const [is, asked] = [this.o.show(value, f.own.kind), this.o.show(wall, f.own.kind)]
    const words = comparator === 'atMost' ? 'beyond' : 'below'
    return [{ t, value, note: `${f.own.name} is ${is}, ${words} the ${asked} of “${name}”` }]
  }
}

function askedOf(own: DeclaredOwn): Own[] {
  try {
    return parseSettings(ownField, [asSetting({ ...own })])
  } catch (e) {
    if (isHypometError(e)) return []
    throw e
  }
}

function namesOf({ reads, at }: Own, channels: LiveOwnFrom['channels']): string[] {
  const by = typeof at === 'object' && 'slope' in at ? [at.slope] : []
  return [reads, ...by].flatMap(text => {
    if (channels.some(c => c.role === text)) return [text]
    try {
      return namesIn(parse(text))
    } catch (e) {
      if (isHypometError(e)) return [text]
      throw e
    }
  })
}

/** What follows a result, or why nothing does; with the SI units of the load and of what a slope is on. */
function followed(asked: Own | undefined, units: { guide: string; slope: string }): [Follower | null, string] {
  try {
    const follower = asked ? followerOf(asked.at, units) : null
    return [follower, follower ? '' : AFTER]
  } catch (e) {
    if (isHypometError(e)) return [null, e.message]
    throw e
  }
}

/** Null where only the whole record tells it. @throws HypometError `unit-dimension` */
function followerOf(at: Own['at'], units: { guide: string; slope: string }): Follower | null {
  if (typeof at === 'string') return wordFollower(at)
  if ('load' in at) return crossing(siLike(at.load, units.guide, 'at.load'))
  if ('rung' in at) return meanOf(s => s.isHeldAt === at.rung - 1)
  if ('mean' in at) return meanOf(s => s.t >= at.mean[0] && s.t <= at.mean[1])
  if ('time' in at) return atTime(at.time)
  if ('slope' in at) {
    const between = at.between?.map(q => siLike(q, units.slope, 'at.between')) ?? [-Infinity, Infinity]
    return slopeUp(Math.min(...between), Math.max(...between))
  }
  return null
}

function wordFollower(at: Own['at'] & string): Follower | null {
  let [low, high, last, most, atMost] = [Infinity, -Infinity, NaN, -1, NaN]
  const look = ({ y, guide }: Sample) => {
    low = Math.min(low, y)
    high = Math.max(high, y)
    last = y
    if (Math.abs(guide) >= most) [most, atMost] = [Math.abs(guide), y]
  }
  const read: Partial<Record<typeof at, () => number>> = {
    largest: () => high,
    smallest: () => low,
    range: () => high - low,
    end: () => last,
    peak: () => atMost,
  }
  const of = read[at]
  return of ? { look, value: () => finite(of()) } : null
}

/** Where the load first comes to a level, straight between the samples about it. */
function crossing(level: number): Follower {
  const sign = level < 0 ? -1 : 1
  let before: { guide: number; y: number } | null = null
  let found: number | null = null
  return {
    look({ y, guide }) {
      if (found !== null || !Number.isFinite(guide)) return
      if (sign * guide >= sign * level)
        found =
          before === null || guide === level
            ? y
            : before.y + ((level - before.guide) / (guide - before.guide)) * (y - before.y)
      before = { guide, y }
    },
    value: () => found,
    isDone: () => found !== null,
  }
}

function atTime(at: number): Follower {
  let before: Sample | null = null
  let found: number | null = null
  return {
    look(s) {
      if (found === null && s.t >= at && (before !== null || s.t === at))
        found = before === null ? s.y : before.y + ((at - before.t) / (s.t - before.t)) * (s.y - before.y)
      before = s
    },
    value: () => found,
    isDone: () => found !== null,
  }
}

function meanOf(counts: (s: Sample) => boolean): Follower {
  let [sum, n, isOver] = [0, 0, false]
  return {
    look(s) {
      if (counts(s)) {
        sum += s.y
        n++
      } else if (n > 0) isOver = true
    },
    value: () => (n > 0 ? sum / n : null),
    isDone: () => isOver,
  }
}

/** Least squares of all samples up to the largest load so far; about the first of them, so that no digits are lost. */
function slopeUp(from: number, to: number): Follower {
  const sums = { n: 0, x: 0, y: 0, xx: 0, xy: 0 }
  const waiting = { ...sums }
  let [x0, y0, most] = [NaN, NaN, -1]
  return {
    look({ x, y, guide }) {
      if (!Number.isFinite(x)) return
      if (Number.isNaN(x0)) [x0, y0] = [x, y]
      if (x >= from && x <= to) {
        const [u, v] = [x - x0, y - y0]
        waiting.n++
        waiting.x += u
        waiting.y += v
        waiting.xx += u * u
        waiting.xy += u * v
      }
      if (Math.abs(guide) < most) return
      most = Math.abs(guide)
      for (const key of ['n', 'x', 'y', 'xx', 'xy'] as const) {
        sums[key] += waiting[key]
        waiting[key] = 0
      }
    },
    value() {
      const spread = sums.xx - sums.x ** 2 / sums.n
      return sums.n < 3 || !(spread > 0) ? null : (sums.xy - (sums.x * sums.y) / sums.n) / spread
    },
  }
}

const finite = (v: number): number | null => (Number.isFinite(v) ? v : null)
