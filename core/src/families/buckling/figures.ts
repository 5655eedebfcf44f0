import type { FigureOutline } from '../../family/contract'
import { handlesOf, thinned, zeroMarks, type Figure, type Series } from '../../method/figure'
import type { Reduction } from '../../method/reduction'
import type { PlanView } from '../../plan/planView'
import type { BucklingSettings } from './settings'

type Parts = Pick<Reduction, 'traces' | 'results' | 'tables'>

const AROUND = 72
/** Pairs of loads on an envelope. */
const ENVELOPE = 21

/** Each deflection on the way up, by its name. */
function deflections({ traces }: Parts, view: PlanView | null): { role: string; name: string; y: Float64Array }[] {
  const end = traces['peak']![0]! + 1
  return Object.keys(traces)
    .filter(k => k.startsWith('deflection:'))
    .map(k => {
      const role = k.slice('deflection:'.length)
      return { role, name: view?.channels.find(c => c.role === role)?.label ?? role, y: traces[k]!.subarray(0, end) }
    })
}

const forceUp = ({ traces }: Parts): Float64Array => traces['force']!.subarray(0, traces['peak']![0]! + 1)
/** The line load on the way up, by which all is judged. */
const guideUp = ({ traces }: Parts): Float64Array => traces['guide']!.subarray(0, traces['peak']![0]! + 1)
const value = (r: Parts, key: string): number => r.results[key]!.value!

export const bucklingFigures: Record<string, FigureOutline<BucklingSettings>> = {
  growth: {
    title: 'Force over deflection',
    draw(r, _, view): Figure | null {
      const force = forceUp(r)
      const list = deflections(r, view)
      if (list.length === 0) return null
      const onset = r.results['onsetForce']!.value
      const foretold = r.results['southwellForce']!.value
      return {
        x: { label: 'Deflection', kind: 'length' },
        y: { label: 'Force', kind: 'force' },
        series: list.map((d, of): Series => ({ name: d.name, style: 'measured', of, ...thinned(d.y, force) })),
        lines: [
          { axis: 'y', value: value(r, 'peakForce'), label: 'buckled' },
          ...(onset == null ? [] : [{ axis: 'y' as const, value: onset, label: 'onset' }]),
          ...(foretold == null ? [] : [{ axis: 'y' as const, value: foretold, label: 'predicted' }]),
        ],
      }
    },
  },
  lineOfGrowth: {
    title: 'Growth over load',
    draw(r, s, view): Figure | null {
      const list = deflections(r, view)
      if (list.length === 0) return null
      const share = guideUp(r).map(n => n / value(r, 'maxLineLoad'))
      return {
        x: { label: 'Load, share of the peak', kind: 'ratio' },
        y: { label: 'Deflection', kind: 'length' },
        series: list.map((d, of): Series => ({ name: d.name, style: 'measured', of, ...thinned(share, d.y) })),
        lines: [],
        bands: [{ from: s.southwellRange[0], to: s.southwellRange[1], label: 'line of growth' }],
        handles: handlesOf('southwellRange', 'Line of growth', s.southwellRange),
      }
    },
  },
  southwell: {
    title: 'Deflection over deflection by load',
    draw(r, s, view): Figure | null {
      const guide = guideUp(r)
      const list = deflections(r, view)
      const [N, around] = [value(r, 'maxLineLoad'), 2 * Math.PI * s.radius]
      const series = list.flatMap((d, of): Series[] => {
        const rows = Array.from(guide.keys()).filter(
          i => guide[i]! >= s.southwellRange[0] * N && guide[i]! <= s.southwellRange[1] * N && !Number.isNaN(d.y[i]!),
        )
        const slope = r.tables['southwell']?.columns['force']![of] as number | null
        if (rows.length < 3 || slope === null) return []
        const [x, y] = [
          Float64Array.from(rows, i => d.y[i]! / (guide[i]! * around)),
          Float64Array.from(rows, i => d.y[i]!),
        ]
        const [mx, my] = [x.reduce((a, b) => a + b, 0) / x.length, y.reduce((a, b) => a + b, 0) / y.length]
        const ends = [Math.min(...x), Math.max(...x)]
        return [
          { name: d.name, style: 'measured', of, ...thinned(x, y) },
          { name: `${d.name}, its line`, style: 'fit', of, x: ends, y: ends.map(v => my + slope * (v - mx)) },
        ]
      })
      return series.length === 0
        ? null
        : {
            x: { label: 'Deflection over force', kind: 'compliance' },
            y: { label: 'Deflection', kind: 'length' },
            series,
            lines: [],
          }
    },
  },
  around: {
    title: 'Line load around',
    draw(r, s): Figure {
      const at = r.traces['peak']![0]!
      const [P, M, p] = ['force', 'moment', 'pressure'].map(k => r.traces[k]![at]!) as [number, number, number]
      const R = s.radius
      const angle = Array.from({ length: AROUND + 1 }, (_, i) => (2 * Math.PI * i) / AROUND)
      const load = angle.map(a => P / (2 * Math.PI * R) + (Math.abs(M) * Math.cos(a)) / (Math.PI * R * R) - (p * R) / 2)
      const design = r.results['designKnockdown']!.value
      const classical = value(r, 'classicalForce') / (2 * Math.PI * R)
      return {
        x: { label: 'Around the section', kind: 'angle' },
        y: { label: 'Line load', kind: 'loadPerLength' },
        polar: true,
        lines: [],
        series: [
          { name: 'Compression at the peak', style: 'measured', x: angle, y: load },
          ...(design === null
            ? []
            : [{ name: 'Lower bound', style: 'fit' as const, x: angle, y: angle.map(() => design * classical) }]),
          ...(s.designFactor === undefined
            ? []
            : [
                {
                  name: 'Design factor',
                  style: 'predicted' as const,
                  x: angle,
                  y: angle.map(() => s.designFactor! * classical),
                },
              ]),
        ],
      }
    },
  },
  interaction: {
    title: 'Force with moment',
    draw(r, s): Figure {
      const force = forceUp(r)
      const design = r.results['designKnockdown']!.value
      const moment = r.traces['moment']!.subarray(0, force.length)
      const bent = moment.map(m => (2 * m) / s.radius)
      const edge = (factor: number): Pick<Series, 'x' | 'y'> => {
        const whole = factor * value(r, 'perfectForce')
        const x = Array.from({ length: ENVELOPE }, (_, i) => (whole * i) / (ENVELOPE - 1))
        return { x, y: x.map(v => whole - v) }
      }
      return {
        x: { label: 'Moment as a force, 2M/R', kind: 'force' },
        y: { label: 'Force', kind: 'force' },
        lines: [],
        series: [
          { name: 'Path of the test', style: 'measured', ...thinned(bent, force) },
          { name: 'Perfect shell', style: 'fit', ...edge(1) },
          ...(design === null ? [] : [{ name: 'Lower bound', style: 'predicted' as const, ...edge(design) }]),
          ...(s.designFactor === undefined
            ? []
            : [{ name: 'Design factor', style: 'predicted' as const, ...edge(s.designFactor) }]),
        ],
      }
    },
  },
  waves: {
    title: 'Waves around',
    draw({ tables }): Figure | null {
      const waves = tables['waves']?.columns
      return waves
        ? {
            x: { label: 'Waves around', kind: 'ratio' },
            y: { label: 'Amplitude at the peak', kind: 'length' },
            series: [
              {
                name: 'Amplitude',
                style: 'points',
                x: waves['waveNumber'] as number[],
                y: waves['amplitude'] as number[],
              },
            ],
            lines: [],
          }
        : null
    },
  },
  record: {
    title: 'Force over time',
    draw({ traces }, s): Figure {
      return {
        x: { label: 'Time', kind: 'time' },
        y: { label: 'Force', kind: 'force' },
        series: [{ name: 'Force', style: 'measured', ...thinned(traces['t']!, traces['force']!) }],
        lines: [],
        ...zeroMarks(s.zeroStart),
      }
    },
  },
}
