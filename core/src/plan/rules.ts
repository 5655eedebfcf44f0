import type { QuantityInput } from '../method/settings'
import type { WrittenRung } from './ladder'

/*
 * Rules that write a ladder. What they write is edited like any other. Values are in one unit, which is handed
 * through.
 */

export interface LadderFrame {
  unit: string
  /** s */
  hold: number
  /** Zero rungs after each so many loaded ones; 0 for none between. */
  zeroEvery: number
  /** s at zero at the end. */
  lastHold: number
  /** From this share of the goal on somebody looks before going on; above 1 for nowhere. */
  lookFrom: number
}

export type LadderRule =
  /** Shares of a goal in per cent: 20, 40, 60, 80, 100. */
  | { rule: 'percent'; goal: number; percents: number[] }
  /** Even steps up to a goal. */
  | { rule: 'increments'; goal: number; step: number }
  /** Steps that shrink as the goal comes near: each a share of what is left, none below the smallest. */
  | { rule: 'approach'; goal: number; first: number; share: number; smallest: number }

/**
 * Rungs by a rule, a zero first and last.
 *
 * @example
 * writeLadder({ rule: 'approach', goal: 100, first: 50, share: 0.5, smallest: 5 }, frame)
 * // 0, 50, 75, 87.5, 93.75, 98.75, 100, 0
 */
export function writeLadder(rule: LadderRule, f: LadderFrame): WrittenRung[] {
  const q = (value: number): QuantityInput => ({ value: tidy(value), unit: f.unit })
  const s = (value: number): QuantityInput => ({ value, unit: 's' })
  const zero = (hold: number): WrittenRung => ({ target: q(0), hold: s(hold) })
  const loaded = levelsOf(rule)
  const rungs: WrittenRung[] = [zero(f.hold)]
  loaded.forEach((value, i) => {
    rungs.push({
      target: q(value),
      hold: s(f.hold),
      ...(value >= f.lookFrom * rule.goal * (1 - 1e-9) ? { decision: true } : {}),
    })
    if (f.zeroEvery > 0 && (i + 1) % f.zeroEvery === 0 && i < loaded.length - 1) rungs.push(zero(f.hold))
  })
  return [...rungs, zero(f.lastHold)]
}

const MOST_RUNGS = 200

function levelsOf(rule: LadderRule): number[] {
  if (!(rule.goal > 0)) return []
  if (rule.rule === 'percent') return rule.percents.filter(p => p > 0).map(p => (p / 100) * rule.goal)
  const levels: number[] = []
  if (rule.rule === 'increments') {
    if (!(rule.step > 0)) return []
    for (let i = 1; i * rule.step < rule.goal * (1 - 1e-9) && levels.length < MOST_RUNGS; i++)
      levels.push(i * rule.step)
  } else
    for (
      let at = rule.first;
      at > 0 && at < rule.goal * (1 - 1e-9) && levels.length < MOST_RUNGS;
      at += Math.max(rule.smallest, rule.share * (rule.goal - at))
    ) {
      levels.push(at)
      if (!(rule.smallest > 0) && !(rule.share > 0)) break
    }
  return [...levels, rule.goal]
}

/** Six digits are more than anybody commands. */
const tidy = (value: number): number => Number(value.toPrecision(6))
