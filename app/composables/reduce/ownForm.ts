import { typedNumber } from '../shared/typedNumber'
import {
  findUnit,
  HypometError,
  isHypometError,
  parseAnyQuantity,
  parseExpression,
  type QuantityInput,
} from '@hypomet/core'

/** A result of one's own as settings ask for it. */
export interface AskedOwn {
  name: string
  channel?: string | undefined
  expression?: string | undefined
  at: unknown
  zero?: unknown
}

export type PlaceKey =
  | 'peak'
  | 'load'
  | 'rung'
  | 'step'
  | 'time'
  | 'mean'
  | 'largest'
  | 'smallest'
  | 'range'
  | 'slope'
  | 'creep'
  | 'set'
  | 'end'

interface PlaceChoice {
  key: PlaceKey
  label: string
  /** What else it needs. */
  asks?: string
  example?: string
}

/** Where a channel may be read. */
export const PLACES: readonly PlaceChoice[] = [
  { key: 'peak', label: 'at the largest load' },
  { key: 'load', label: 'at a load', asks: 'Load', example: '12 kN' },
  { key: 'rung', label: 'at a rung', asks: 'Rung of the plan', example: '3' },
  { key: 'step', label: 'mean of a step', asks: 'Step', example: '3' },
  { key: 'time', label: 'at a time', asks: 'Time', example: '40 s' },
  { key: 'mean', label: 'mean of a window', asks: 'From and to', example: '10 to 20 s' },
  { key: 'largest', label: 'its largest' },
  { key: 'smallest', label: 'its smallest' },
  { key: 'range', label: 'largest less smallest' },
  { key: 'slope', label: 'slope on a channel', asks: 'On', example: 'load' },
  { key: 'creep', label: 'creep over a step', asks: 'Step', example: '3' },
  { key: 'set', label: 'set after unloading' },
  { key: 'end', label: 'at the end' },
]

interface Typed {
  name: string
  reads: string
  place: PlaceKey
  said: string
  isZeroed: boolean
}

/** What was typed as a setting, or what it lacks. */
export function ownAsked({ name, reads, place, said, isZeroed }: Typed): { own: AskedOwn } | { lacks: string } {
  if (name === '') return { lacks: 'Name it.' }
  if (reads === '') return { lacks: 'Say which channel, or an expression of channels.' }
  try {
    const isName = /^[A-Za-z_][A-Za-z0-9_]*$/.test(reads) || !isExpression(reads)
    const own = { name, ...(isName ? { channel: reads } : { expression: reads }), at: placeSaid(place, said) }
    return { own: isZeroed ? own : { ...own, zero: null } }
  } catch (e) {
    if (isHypometError(e)) return { lacks: e.message }
    throw e
  }
}

/** Names of columns need not be expressions. */
function isExpression(text: string): boolean {
  try {
    parseExpression(text)
    return true
  } catch (e) {
    if (isHypometError(e)) return false
    throw e
  }
}

function placeSaid(place: PlaceKey, said: string): unknown {
  const count = () => {
    if (/^[1-9]\d*$/.test(said)) return Number(said)
    throw new HypometError('setting-type', 'Which one? A whole number, from 1.')
  }
  switch (place) {
    case 'load':
      return { load: quantitySaid(said, 'How much? “12 kN”.') }
    case 'rung':
    case 'step':
    case 'creep':
      return { [place]: count() }
    case 'time':
      return { time: secondsSaid(said, 'When? “40 s”.') }
    case 'mean': {
      const [from, to, ...more] = said.split(/\s*(?:to|–|;)\s*/)
      if (!from || !to || more.length > 0) throw new HypometError('setting-type', 'From when to when? “10 to 20 s”.')
      const unit = /[^\d.,\s-].*$/.exec(to)?.[0] ?? ''
      return {
        mean: [/[^\d.,\s-]/.test(from) ? from : `${from} ${unit}`, to].map(x => secondsSaid(x, 'From when to when?')),
      }
    }
    case 'slope':
      if (said === '') throw new HypometError('setting-type', 'On which channel?')
      return { slope: said }
    default:
      return place
  }
}

function quantitySaid(said: string, lacks: string): QuantityInput {
  const q = said === '' ? null : parseAnyQuantity(said)
  if (q === null || typeof q === 'number' || !findUnit(q.unit, 'gravity')) throw new HypometError('setting-type', lacks)
  return q
}

/** A bare number counts in seconds: a record’s clock does. */
const secondsSaid = (said: string, lacks: string): QuantityInput =>
  /^-?[\d.,]+$/.test(said.trim()) ? { value: typedNumber(said), unit: 's' } : quantitySaid(said.trim(), lacks)
