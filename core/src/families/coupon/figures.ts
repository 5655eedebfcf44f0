import type { FigureOutline } from '../../family/contract'
import { handlesOf, thinned, type Figure, type Series } from '../../method/figure'
import type { CouponSettings } from './settings'

const stress = { label: 'Stress', kind: 'pressure' } as const
const MOST_POINTS = 300

export const couponFigures: Record<string, FigureOutline<CouponSettings>> = {
  strengths: {
    title: 'Strengths',
    draw({ tables, results }): Figure {
      const rows = tables['specimens']!.columns
      const strength = rows['strength'] as number[]
      const number = strength.map((_, i) => i + 1)
      const odd = number.filter((_, i) => rows['outlier']![i] === 1)
      const line = (key: string, label: string) =>
        results[key]!.value == null ? [] : [{ axis: 'y' as const, value: results[key]!.value!, label }]
      return {
        x: { label: 'Specimen, in the order of the file', kind: 'ratio' },
        y: { label: 'Strength', kind: 'pressure' },
        series: [
          { name: 'Strength', style: 'points', x: number, y: strength },
          ...(odd.length > 0
            ? [{ name: 'Outlier', style: 'points' as const, of: 2, x: odd, y: odd.map(n => strength[n - 1]!) }]
            : []),
        ],
        lines: [...line('strengthMean', 'mean'), ...line('basisB', 'B-basis'), ...line('basisA', 'A-basis')],
      }
    },
  },
  stressStrain: {
    title: 'Stress over strain',
    draw({ traces }, s): Figure | null {
      const names = Object.keys(traces)
        .filter(k => k.startsWith('strain:'))
        .map(k => k.slice('strain:'.length))
      if (names.length === 0) return null
      const series = names.map((name, of): Series => ({
        name,
        style: 'measured',
        of,
        ...thinned(traces[`strain:${name}`]!, traces[`stress:${name}`]!, MOST_POINTS),
      }))
      return {
        x: { label: 'Strain', kind: 'strain' },
        y: stress,
        series,
        lines: [],
        bands: [{ from: s.chord[0], to: s.chord[1], label: 'chord' }],
        handles: handlesOf('chord', 'Chord', s.chord),
      }
    },
  },
  worth: {
    title: 'What more would buy',
    draw({ tables, results }): Figure | null {
      const worth = tables['worth']?.columns
      if (!worth) return null
      const curve = (name: string, key: string, of: number): Series => ({
        name,
        style: 'measured',
        of,
        x: worth['specimens'] as number[],
        y: worth[key] as number[],
      })
      return {
        x: { label: 'Specimens of the same mean and spread', kind: 'ratio' },
        y: { label: 'Basis value', kind: 'pressure' },
        series: [curve('B-basis', 'basisB', 0), curve('A-basis', 'basisA', 1)],
        lines: [{ axis: 'y', value: results['strengthMean']!.value!, label: 'mean' }],
      }
    },
  },
}
