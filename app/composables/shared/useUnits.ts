import {
  formatQuantity,
  fromUnit,
  inUnit,
  readableUnit,
  preferenceOf,
  parseQuantity,
  preferredUnit,
  type FormatOptions,
  type Kind,
  type QuantityInput,
  type Result,
  type UnitPreference,
} from '@hypomet/core'

const isDecimal = (ratio: number) => Math.abs(Math.log10(ratio) - Math.round(Math.log10(ratio))) < 1e-9

/** Formatting in a campaign's units: the one place where numbers become text. */
export function useUnits(system: MaybeRefOrGetter<'metric' | 'imperial'>) {
  const { style, units } = useNumberStyle()
  const prefer = computed((): UnitPreference => ({
    ...preferenceOf({ system: toValue(system), units: units.value }),
    numbers: style.value,
  }))
  const entered = (q: QuantityInput, kind: Kind) =>
    typeof q === 'number' ? formatQuantity(q, kind, { prefer: prefer.value }) : `${q.value}\u202f${q.unit}`
  /** In the campaign's unit, with what was typed beside it where that was in another one. */
  const asRead = (q: QuantityInput, kind: Kind) =>
    typeof q === 'number' || isOwn(q.unit, kind)
      ? entered(q, kind)
      : `${formatQuantity(fromUnit(q.value, kind, q.unit), kind, { prefer: prefer.value })} (typed ${entered(q, kind)})`
  /** Of another size only, as mm beside m, or kN beside N, a typed unit is the campaign's. */
  const isOwn = (unit: string, kind: Kind) => {
    const own = preferredUnit(kind, { prefer: prefer.value })
    return (
      own === unit || isDecimal(inUnit(fromUnit(1, kind, unit), kind, own) - inUnit(fromUnit(0, kind, unit), kind, own))
    )
  }
  return {
    prefer,
    unit: (kind: Kind) => preferredUnit(kind, { prefer: prefer.value }),
    /** As a field holds it: in the campaign's unit for its size. */
    input: (si: number, kind: Kind): QuantityInput =>
      (unit =>
        unit === '1' ? Number(si.toPrecision(8)) : { value: Number(inUnit(si, kind, unit).toPrecision(8)), unit })(
        readableUnit(si, kind, { prefer: prefer.value }),
      ),
    parse: (text: string, kind: Kind) =>
      parseQuantity(text, kind, preferredUnit(kind, { prefer: prefer.value }), prefer.value.numbers),
    si: (q: QuantityInput, kind: Kind) => (typeof q === 'number' ? q : fromUnit(q.value, kind, q.unit)),
    show: (si: number | null | undefined, kind: Kind, o: FormatOptions = {}) =>
      formatQuantity(si, kind, { prefer: prefer.value, ...o }),
    /** A number as it was entered, with its own unit. */
    entered,
    /** “≥ 3.2 kN × 1.5”: a limit as it was entered, with the factor that is asked on top of it. */
    limit: (l: { comparator: 'atLeast' | 'atMost'; entered: QuantityInput; factor: number }, kind: Kind) =>
      `${l.comparator === 'atMost' ? '≤' : '≥'} ` +
      `${asRead(l.entered, kind)}${l.factor === 1 ? '' : ` ${l.comparator === 'atMost' ? '/' : '×'} ${l.factor}`}`,
    /** A difference: the zero of a scale does not count. */
    difference: (si: number, kind: Kind, U: number | null = null) =>
      formatQuantity(si, kind, {
        prefer: prefer.value,
        difference: true,
        ...(U === null ? { digits: 3 } : { U }),
      }),
    /** A result with its bound and expanded uncertainty. */
    result: (r: Pick<Result, 'value' | 'bound' | 'u' | 'k'> | undefined, kind: Kind, unit?: string) => {
      if (!r || r.value === null) return '–'
      if (typeof r.bound === 'object')
        return r.bound.interval
          .map(end => formatQuantity(end, kind, { prefer: prefer.value, digits: 3, ...(unit ? { unit } : {}) }))
          .join(' … ')
      const U = r.u ? r.u * (r.k ?? 2) : null
      const text = formatQuantity(r.value, kind, { prefer: prefer.value, U, ...(unit ? { unit } : {}) })
      return r.bound === 'atLeast' ? `≥ ${text}` : r.bound === 'atMost' ? `≤ ${text}` : text
    },
  }
}
