import { trade, type Candidate, type Trade } from '@hypomet/core'

/** What candidates are weighed by; of all of them less is better. */
export const CRITERIA = [
  { key: 'mass', label: 'Mass', usual: 3 },
  { key: 'cost', label: 'Cost', usual: 2 },
  { key: 'leadTime', label: 'Lead time', usual: 2 },
  { key: 'room', label: 'Margin to the nearest limit', usual: 1 },
  { key: 'doubt', label: 'Uncertainty of its prediction', usual: 1 },
] as const

export const usualWeights = (): Record<string, number> => Object.fromEntries(CRITERIA.map(c => [c.key, c.usual]))

/** The widest of a candidate's bands, as a share of its value. */
const doubtOf = (c: Candidate): number =>
  Math.max(0, ...Object.values(c.predictions).map(p => (p.value ? Math.abs(((p.u ?? 0) * (p.k ?? 2)) / p.value) : 0)))

export const tradeOf = (candidates: readonly Candidate[], weights: Readonly<Record<string, number>>): Trade =>
  trade(
    candidates.map(c => ({
      id: c.id,
      values: {
        mass: c.massChange,
        cost: c.cost,
        leadTime: c.leadTimeDays,
        room: c.room === null ? null : -c.room,
        doubt: doubtOf(c),
      },
    })),
    weights,
  )
