import type { FigureOutline } from '../../family/contract'
import { handlesOf, thinned, type Figure, type Series } from '../../method/figure'
import type { Reduction } from '../../method/reduction'
import type { PlanView } from '../../plan/planView'
import { octaveSteps, shockResponse } from '../../signal/shockResponse'
import type { VibrationSettings } from './settings'

const frequency = { label: 'Frequency', kind: 'frequency' } as const
type Parts = Pick<Reduction, 'traces' | 'results' | 'tables'>

/** Curves of all responses, inside the band and a little around it. */
function curves(prefix: string, { traces }: Parts, s: VibrationSettings, view: PlanView | null): Series[] {
  const f = traces['frequency']!
  const [from, to] = [f.findIndex(v => v >= 0.5 * s.band[0] && v > 0), f.findLastIndex(v => v <= 1.5 * s.band[1]) + 1]
  const roles = Object.keys(traces)
    .filter(k => k.startsWith(`${prefix}:`))
    .map(k => k.slice(prefix.length + 1))
  return roles.map((role, of) => ({
    name: view?.channels.find(c => c.role === role)?.label ?? role,
    style: 'measured',
    of,
    ...thinned(f.subarray(from, to), traces[`${prefix}:${role}`]!.subarray(from, to)),
  }))
}

const bandMarks = (s: VibrationSettings) => ({
  bands: [{ from: s.band[0], to: s.band[1], label: 'band' }],
  handles: handlesOf('band', 'Band', s.band),
})

export const vibrationFigures: Record<string, FigureOutline<VibrationSettings>> = {
  response: {
    title: 'Response over drive',
    draw(r, s, view): Figure {
      const modes = r.tables['modes']!.columns
      return {
        x: frequency,
        y: { label: 'Response over drive', kind: 'ratio', log: true },
        ...bandMarks(s),
        series: [
          ...curves('size', r, s, view),
          { name: 'Modes', style: 'points', x: modes['frequency'] as number[], y: modes['amplitude'] as number[] },
        ],
        lines: [
          ...(s.minFrequency === undefined ? [] : [{ axis: 'x' as const, value: s.minFrequency, label: 'not below' }]),
          ...(s.before ?? []).map(b => ({ axis: 'x' as const, value: b.frequency, label: 'before' })),
        ],
      }
    },
  },
  density: {
    title: 'Density',
    draw(r, s, view): Figure {
      const f = r.traces['frequency']!
      const drive: Series = {
        name: 'Drive',
        style: 'measured',
        ...thinned(f.subarray(1), r.traces['driveDensity']!.subarray(1)),
      }
      const wanted = r.traces['specified']
      const at = wanted ? Array.from(f.keys()).filter(k => wanted[k]! > 0) : []
      const edge = (name: string, dB: number): Series => ({
        name,
        style: 'predicted',
        x: at.map(k => f[k]!),
        y: at.map(k => wanted![k]! * 10 ** (dB / 10)),
      })
      return {
        x: frequency,
        y: { label: 'Density', kind: 'accelerationDensity', log: true },
        ...bandMarks(s),
        lines: [],
        series: [
          drive,
          ...curves('density', r, s, view).map((c, i) => ({ ...c, of: i + 1 })),
          ...(at.length > 1 ? [edge(`+${s.tolerance} dB`, s.tolerance), edge(`−${s.tolerance} dB`, -s.tolerance)] : []),
        ],
      }
    },
  },
  coherence: {
    title: 'Coherence',
    draw: (r, s, view): Figure => ({
      x: frequency,
      y: { label: 'Coherence', kind: 'ratio' },
      series: curves('coherence', r, s, view),
      lines: [],
      ...bandMarks(s),
    }),
  },
  shapes: {
    title: 'Mode shapes',
    draw({ tables }, s): Figure | null {
      const shapes = tables['shapes']?.columns
      if (!shapes || !shapes['x']!.some(v => v !== null)) return null
      const modes = [...new Set(shapes['mode'] as number[])]
      const along = (rows: { x: number; y: number }[]) => rows.sort((a, b) => a.x - b.x)
      const measured = modes.map((mode, of): Series => {
        const rows = along(
          shapes['mode']!.flatMap((m, i) =>
            m === mode && shapes['x']![i] !== null
              ? [{ x: shapes['x']![i] as number, y: shapes['value']![i] as number }]
              : [],
          ),
        )
        const hertz = shapes['frequency']![shapes['mode']!.indexOf(mode)] as number
        return {
          name: `Mode at ${hertz.toPrecision(3)} Hz`,
          style: 'measured',
          of,
          x: rows.map(p => p.x),
          y: rows.map(p => p.y),
        }
      })
      const channels = [...new Set(shapes['channel'] as string[])]
      const places = channels.map(c => s.points?.find(p => p.channel === c)?.x ?? null)
      const model = (s.shapes ?? []).map((shape): Series => {
        const rows = along(shape.values.flatMap((y, i) => (places[i] == null ? [] : [{ x: places[i]!, y }])))
        return {
          name: `Model${shape.frequency ? `, ${shape.frequency.toPrecision(3)} Hz` : ''}`,
          style: 'predicted',
          x: rows.map(p => p.x),
          y: rows.map(p => p.y),
        }
      })
      return {
        x: { label: 'Place along the article', kind: 'length' },
        y: { label: 'Shape, largest one', kind: 'ratio' },
        series: [...measured, ...model],
        lines: [{ axis: 'y', value: 0, label: '' }],
      }
    },
  },
  ...Object.fromEntries(
    [1, 2, 3].map((mode): [string, FigureOutline<VibrationSettings>] => [
      `plane:${mode}`,
      {
        title: `Mode ${mode} over its points`,
        draw({ tables }): Figure | null {
          const shapes = tables['shapes']?.columns
          const rows = shapes
            ? shapes['mode']!.flatMap((m, i) => (m === mode && shapes['x']![i] !== null ? [i] : []))
            : []
          const of = (column: string) => rows.map(i => shapes![column]![i] as number)
          // On a line the curve says it better.
          if (rows.length < 3 || new Set(of('y')).size < 2) return null
          return {
            x: { label: 'x', kind: 'length' },
            y: { label: 'y', kind: 'length' },
            series: [],
            lines: [],
            field: {
              label: `Shape at ${of('frequency')[0]!.toPrecision(3)} Hz, largest one`,
              kind: 'ratio',
              x: of('x'),
              y: of('y'),
              value: of('value'),
            },
          }
        },
      },
    ]),
  ),
  shockResponse: {
    title: 'Shock response',
    draw({ traces }): Figure | null {
      const { t, first } = traces as { t: Float64Array; first: Float64Array }
      const interval = (t.at(-1)! - t[0]!) / (t.length - 1)
      const n = Math.min(first.length, SHOCK.samples)
      const [low, high] = [SHOCK.periods / (n * interval), SHOCK.ofRate / interval]
      if (!(high > 2 * low)) return null
      const steps = octaveSteps(low, high, SHOCK.perOctave)
      return {
        x: { ...frequency, log: true },
        y: { label: 'Largest response, Q 10', kind: 'acceleration', log: true },
        series: [
          {
            name: 'Largest response of the first channel',
            style: 'measured',
            x: [...steps],
            y: [...shockResponse(first.subarray(0, n), interval, steps, SHOCK.q)],
          },
        ],
        lines: [],
      }
    },
  },
}

/** A shock is short: of a long record its beginning counts. */
const SHOCK = { samples: 200_000, periods: 4, ofRate: 0.1, perOctave: 12, q: 10 }
