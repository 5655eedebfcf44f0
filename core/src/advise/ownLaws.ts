import { HypometError } from '../error'
import type { SizingRules } from './made'
import type { LawInUse, Scaled, Sizes, SizingModel } from './model'

/** With what a result of one’s own goes: a result that laws speak of, or a size; and with which power of it. */
export interface OwnLaw {
  goesWith: string
  power: number
  /** Standard uncertainty of the power. */
  doubt: number
}

/**
 * A model that speaks of results of one’s own as well, each by the law that somebody has said of it: a strain at limit
 * load goes with the stiffness to the power −1, say. What nobody has said of stays out of it.
 *
 * @param labels  of results, by their keys
 */
export function withOwnLaws(
  model: SizingModel,
  rules: Pick<SizingRules, 'own'>,
  labels: Readonly<Record<string, { label: string }>>,
): SizingModel {
  const own = Object.entries(rules.own)
  if (own.length === 0) return model
  const now = model.at({})
  const isSize = (key: string) => model.dimensions.some(d => d.key === key)
  const isKnown = ([, { goesWith }]: (typeof own)[number]) => Object.hasOwn(now, goesWith) || isSize(goesWith)
  const usable = own.filter(isKnown)
  const ratioOf = (key: string, sizes: Sizes, all: Readonly<Record<string, Scaled>>): Scaled => {
    const d = model.dimensions.find(x => x.key === key)
    return all[key] ?? { ratio: (sizes[key] ?? d!.value) / d!.value, doubt: 0 }
  }
  const laws = usable.flatMap(([quantity, { goesWith, power, doubt }]): LawInUse[] => {
    const what = labels[goesWith]?.label ?? model.properties[goesWith]?.label ?? goesWith
    const because = `taken to go with ${what.toLowerCase()} to the power ${power.toFixed(2)}`
    if (isSize(goesWith)) return [{ size: goesWith, quantity, exponent: power, u: doubt, from: 'law', because }]
    return model.laws
      .filter(l => l.quantity === goesWith)
      .map(l => ({
        ...l,
        quantity,
        exponent: l.exponent * power,
        u: Math.hypot(l.u * power, l.exponent * doubt),
        because: `${because}, which goes so by ${l.because}`,
      }))
  })
  return {
    ...model,
    laws: [...model.laws, ...laws],
    notes: [
      ...model.notes,
      ...own
        .filter(o => !isKnown(o))
        .map(([name, l]) => `${name}: “${l.goesWith}” is neither sized here nor a size, so no change is sized for it.`),
    ],
    at: sizes => {
      const all = model.at(sizes)
      const further = usable.map(([name, { goesWith, power, doubt }]): [string, Scaled] => {
        const { ratio, doubt: known } = ratioOf(goesWith, sizes, all)
        return [name, { ratio: ratio ** power, doubt: Math.hypot(power * known, doubt * Math.log(ratio)) }]
      })
      return { ...all, ...Object.fromEntries(further) }
    },
  }
}

/** @throws HypometError `setting-range` where a law goes with itself, or is of a result of the kind of test */
export function checkOwnLaws(rules: Pick<SizingRules, 'own'>, declared: readonly string[]): void {
  for (const [name, { goesWith }] of Object.entries(rules.own)) {
    if (declared.includes(name))
      throw new HypometError('setting-range', `“${name}” has laws of its own.`, { path: `rules.own.${name}` })
    if (goesWith === name)
      throw new HypometError('setting-range', 'It cannot go with itself.', { path: `rules.own.${name}.goesWith` })
  }
}
