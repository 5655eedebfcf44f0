import type { FigureOutline } from '../../family/contract'
import { handlesOf, thinned, type Figure, type Series } from '../../method/figure'
import type { Reduction } from '../../method/reduction'
import type { ChannelView } from '../../plan/channels'
import type { StaticSettings } from './settings'

type Drawn = Pick<Reduction, 'traces' | 'results' | 'tables'>

const load = { label: 'Load', kind: 'force' } as const
const MOST_STATIONS = 12
/** Gauges that are named, the worst of hundreds. */
const NAMED = 10

export const staticFigures: Record<string, FigureOutline<StaticSettings>> = {
  loadDeflection: { title: 'Load over deflection', draw: loadDeflection },
  loadTime: {
    title: 'Load over time',
    draw({ traces }, s): Figure {
      const windows = [
        ['zeroStart', 'zero', s.zeroStart],
        ['zeroEnd', 'end zero', s.zeroEnd],
      ] as const
      return {
        x: { label: 'Time', kind: 'time' },
        y: load,
        series: [{ name: 'Load', style: 'measured', ...thinned(traces['t']!, traces['load']!) }],
        lines: [],
        bands: windows.flatMap(([, label, w]) => (w ? [{ from: w[0], to: w[1], label }] : [])),
        handles: [
          ...handlesOf('zeroStart', 'Zero at the start', s.zeroStart),
          ...handlesOf('zeroEnd', 'Zero at the end', s.zeroEnd),
        ],
      }
    },
  },
  stations: {
    title: 'Load over deflection, every station',
    draw({ traces }, _, view): Figure | null {
      const along = lengthChannels(view).filter(c => traces[c.role])
      if (along.length < 2) return null
      return {
        x: { label: 'Deflection', kind: 'length' },
        y: load,
        lines: [],
        series: along.slice(0, MOST_STATIONS).map((c, of) => ({
          name: c.label,
          style: 'measured',
          of,
          ...thinned(traces[c.role]!, traces['load']!, 400),
        })),
      }
    },
  },
  shape: {
    title: 'Deflected shape',
    draw({ tables }, _, view): Figure | null {
      const placed = lengthChannels(view)
        .filter(c => c.x !== undefined && tables['steps']?.columns[`${c.role}Mean`])
        .sort((a, b) => a.x! - b.x!)
      if (new Set(placed.map(c => c.x)).size < 2) return null
      return {
        x: { label: 'Along the span', kind: 'length' },
        y: { label: 'Deflection', kind: 'length' },
        lines: [],
        series: loadedSteps(tables).map(({ row, name }, of) => ({
          name,
          style: 'measured',
          of,
          x: placed.map(c => c.x!),
          y: placed.map(c => tables['steps']!.columns[`${c.role}Mean`]![row] as number | null),
        })),
      }
    },
  },
  twist: {
    title: 'Twist along the span',
    draw({ tables }, _, view): Figure | null {
      const pairs = twistPairs(lengthChannels(view).filter(c => tables['steps']?.columns[`${c.role}Mean`]))
      if (pairs.length === 0) return null
      const mean = (role: string, row: number) => tables['steps']!.columns[`${role}Mean`]![row] as number | null
      return {
        x: { label: 'Along the span', kind: 'length' },
        y: { label: 'Rotation from the pair', kind: 'angle' },
        lines: [],
        series: loadedSteps(tables).map(({ row, name }, of) => ({
          name,
          style: pairs.length > 1 ? 'measured' : 'points',
          of,
          x: pairs.map(([a]) => a.x!),
          y: pairs.map(([a, b]) => {
            const [u, v] = [mean(a.role, row), mean(b.role, row)]
            return u === null || v === null ? null : Math.atan((u - v) / (a.y! - b.y!))
          }),
        })),
      }
    },
  },
  strainRatio: {
    title: 'Strain against what was expected',
    draw({ tables, traces }, _, view): Figure | null {
      const gauges = (view?.channels ?? []).filter(c => c.kind === 'strain' && c.expectedPeak && traces[c.role])
      const steps = loadedSteps(tables)
      const top = steps.at(-1)
      if (gauges.length === 0 || !top || !view) return null
      const share = (tables['steps']!.columns['loadMean']![top.row] as number) / view.maxTarget
      const rated = gauges
        .flatMap(c => {
          const mean = tables['steps']!.columns[`${c.role}Mean`]?.[top.row] as number | null | undefined
          return mean == null ? [] : [{ label: c.label, ratio: mean / (c.expectedPeak! * share) }]
        })
        .sort((a, b) => Math.abs(Math.log(Math.abs(b.ratio) || 1e-9)) - Math.abs(Math.log(Math.abs(a.ratio) || 1e-9)))
      return {
        x: { label: 'Gauge, worst first', kind: 'ratio' },
        y: { label: `Measured over expected at ${top.name}`, kind: 'ratio' },
        series: [
          ...rated
            .slice(0, NAMED)
            .map((g, i) => ({ name: g.label, style: 'points' as const, of: i, x: [i + 1], y: [g.ratio] })),
          ...(rated.length > NAMED
            ? [
                {
                  name: `${rated.length - NAMED} others`,
                  style: 'points' as const,
                  x: rated.slice(NAMED).map((_, i) => NAMED + i + 1),
                  y: rated.slice(NAMED).map(g => g.ratio),
                },
              ]
            : []),
        ],
        lines: [{ axis: 'y', value: 1, label: 'as expected' }],
      }
    },
  },
}

const lengthChannels = (view: Parameters<FigureOutline['draw']>[2]): ChannelView[] =>
  (view?.channels ?? []).filter(c => c.kind === 'length')

/** Steps under load up to the highest, each load once, as the table has them. */
function loadedSteps(tables: Drawn['tables']): { row: number; name: string }[] {
  const means = (tables['steps']?.columns['loadMean'] ?? []) as (number | null)[]
  const most = Math.max(...means.map(m => m ?? 0))
  const [rows, seen]: [{ row: number; name: string }[], number[]] = [[], []]
  means.forEach((m, row) => {
    if (m === null || m < 0.05 * most || seen.some(s => Math.abs(s - m) < 0.02 * most)) return
    seen.push(m)
    rows.push({ row, name: `${(m / 1000).toFixed(2)} kN` })
  })
  return rows.sort((a, b) => means[a.row]! - means[b.row]!)
}

/** Gauges at one place along the span, apart across it: the outermost two. */
function twistPairs(channels: readonly ChannelView[]): [ChannelView, ChannelView][] {
  const places = [...new Set(channels.filter(c => c.x !== undefined && c.y !== undefined).map(c => c.x!))].sort(
    (a, b) => a - b,
  )
  return places.flatMap((x): [ChannelView, ChannelView][] => {
    const across = channels.filter(c => c.x === x && c.y !== undefined).sort((a, b) => a.y! - b.y!)
    return across.length < 2 || across[0]!.y === across.at(-1)!.y ? [] : [[across.at(-1)!, across[0]!]]
  })
}

/** Load over deflection: the record up to its end, the means of the steps, the line of the stiffness fit. */
function loadDeflection({ traces, tables }: Drawn, s: StaticSettings): Figure {
  const { load, deflection } = traces as { load: Float64Array; deflection: Float64Array }
  const steps = tables['steps']!.columns
  const measured: Series = { name: 'Measured', style: 'measured', ...thinned(deflection, load) }
  const means: Series = {
    name: 'Step means',
    style: 'points',
    x: steps['deflectionMean'] as number[],
    y: steps['loadMean'] as number[],
  }
  const { stiffnessLine: line } = traces
  const fit: Series[] = line
    ? [{ name: 'Stiffness fit', style: 'fit', x: [line[0]!, line[1]!], y: [line[2]!, line[3]!] }]
    : []
  return {
    x: { label: 'Deflection', kind: 'length' },
    y: { label: 'Load', kind: 'force' },
    series: [measured, ...fit, means],
    lines: s.designLoad === undefined ? [] : [{ axis: 'y', value: s.designLoad, label: 'Design load' }],
  }
}
