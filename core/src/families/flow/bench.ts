import { HypometError } from '../../error'
import { exact, tableOf } from '../../calc/answer'
import { rowsWith } from '../../method/rows'
import type { Table } from '../../method/table'
import type { Reduction, ResultTable } from '../../method/reduction'
import type { Warning } from '../../warning'
import { meanRead } from '../../statistics/mean'
import { densityOf } from './air'
import { comparedOf } from './names'
import type { FlowSettings } from './settings'

/** Lifts within this are one, m. */
const SAME_LIFT = 1e-9

interface Curve {
  config: string
  lifts: number[]
  flows: number[]
  densities: number[]
  /** Mean over the range of lifts; null where the curve does not reach over it. */
  mean: number | null
}

/**
 * Flow bench: flows less their leak, at the reference pressure difference, over lift; the mean over a range of lifts,
 * and against
 * the baseline what was gained, and where most was lost.
 *
 * @param table  config (words), lift [m], flow [m³/s], drop [Pa], temperature [K], baro [Pa, both optional]
 * @throws HypometError `setting-range` for a baseline or subject that is not there
 * @source methods.md, “flow”
 */
export function reduceBench(read: Table, s: FlowSettings): Reduction {
  const names = [...new Set(read.text!['config']!)]
  const [baselineName, subjectName] = comparedOf(names, s)
  const table = rowsWith(inFlow(read, s), ['lift', 'flow', 'drop'])
  const warnings: Warning[] = []
  const curves = names.map(config => curveOf(table, config, s, warnings))
  const [baseline, subject] = [baselineName, subjectName].map(n => curves.find(c => c.config === n)!) as [Curve, Curve]
  const rows = curves.map(c => ({ config: c.config, ...against(c, baseline, s.liftRange!) }))
  const of = rows.find(r => r.config === subject.config)!
  const means = rows.flatMap(r => (r.meanFlow === null ? [] : [r.meanFlow]))
  const spread =
    means.length > 1
      ? (Math.max(...means) - Math.min(...means)) / (means.reduce((a, b) => a + b, 0) / means.length)
      : null
  return {
    results: {
      meanFlow: exact(of.meanFlow, 'm³/s'),
      gain: exact(of.gain, 'm³/s'),
      gainPercent: exact(of.gainPercent, '%'),
      worstLift: exact(of.worstLift, 'm'),
      worstLoss: exact(of.worstLoss, 'm³/s'),
      worstLiftInRange: exact(of.worstLiftInRange, 'm'),
      worstLossInRange: exact(of.worstLossInRange, 'm³/s'),
      ...(spread === null ? {} : { configSpread: exact(spread, '1') }),
    },
    tables: {
      configs: tableOf(rows, {
        config: '',
        meanFlow: 'm³/s',
        gain: 'm³/s',
        gainPercent: '%',
        worstLift: 'm',
        worstLoss: 'm³/s',
        worstLiftInRange: 'm',
        worstLossInRange: 'm³/s',
      }),
      curve: curveTable(curves, s),
    },
    warnings,
    traces: Object.fromEntries(
      curves.flatMap(c => [
        [`${c.config} lift`, Float64Array.from(c.lifts)],
        [`${c.config} flow`, Float64Array.from(c.flows)],
      ]),
    ),
  }
}

/** Flows in m³/s: a bench that reads shares of its range says them of it. */
function inFlow(table: Table, { benchRange }: FlowSettings): Table {
  const unit = table.units['flow']
  if (benchRange === undefined || unit === 'm³/s') return table
  if (unit !== '1')
    throw new HypometError('unit-dimension', `A flow is m³/s, or a share of the bench's range; this is ${unit}.`, {
      path: 'channels.flow.unit',
    })
  const flow = table.channels['flow']!.map(share => share * benchRange)
  return { ...table, channels: { ...table.channels, flow }, units: { ...table.units, flow: 'm³/s' } }
}

/** Corrected flow over lift, equal lifts as one. */
function curveOf({ text, channels }: Table, config: string, s: FlowSettings, warnings: Warning[]): Curve {
  const rows = text!['config']!.flatMap((c, i) => (c === config ? [i] : []))
  const [lift, flow, drop] = [channels['lift']!, channels['flow']!, channels['drop']!]
  const mean = (list: readonly number[]) => list.reduce((a, b) => a + b, 0) / list.length
  const closed = rows.filter(i => Math.abs(lift[i]!) <= SAME_LIFT)
  const leak =
    closed.length > 0 ? { flow: mean(closed.map(i => flow[i]!)), drop: mean(closed.map(i => drop[i]!)) } : null
  if (!leak)
    warnings.push({ code: 'no-leak-test', message: `${config} has no row at lift 0: its leak is not taken off.` })
  const open = rows.filter(i => Math.abs(lift[i]!) > SAME_LIFT).sort((a, b) => lift[a]! - lift[b]!)
  const groups: number[][] = []
  for (const i of open) {
    const last = groups.at(-1)
    if (last && lift[i]! - lift[last[0]!]! <= SAME_LIFT) last.push(i)
    else groups.push([i])
  }
  const corrected = (i: number) =>
    (flow[i]! - (leak ? leak.flow * Math.sqrt(drop[i]! / leak.drop) : 0)) * Math.sqrt(s.referenceDrop! / drop[i]!)
  const curve = {
    config,
    lifts: groups.map(g => lift[g[0]!]!),
    flows: groups.map(g => mean(g.map(corrected))),
    densities: groups.map(g => meanRead(g.map(i => densityOf(channels, i)))),
  }
  const over = meanOver(curve.lifts, curve.flows, s.liftRange!)
  if (over === null)
    warnings.push({
      code: 'range-outside',
      message: `${config} was not read over the whole range of lifts: it has no mean flow.`,
    })
  return { ...curve, mean: over }
}

/** Straight between lifts; null beyond them. */
function at(lifts: readonly number[], flows: readonly number[], lift: number): number | null {
  const k = lifts.findIndex(l => l >= lift - SAME_LIFT)
  if (k < 0 || (k === 0 && lift < lifts[0]! - SAME_LIFT)) return null
  if (k === 0 || Math.abs(lifts[k]! - lift) <= SAME_LIFT) return flows[k]!
  const share = (lift - lifts[k - 1]!) / (lifts[k]! - lifts[k - 1]!)
  return flows[k - 1]! + share * (flows[k]! - flows[k - 1]!)
}

function meanOver(
  lifts: readonly number[],
  flows: readonly number[],
  [from, to]: readonly [number, number],
): number | null {
  const [first, last] = [at(lifts, flows, from), at(lifts, flows, to)]
  if (first === null || last === null) return null
  const inside = lifts.flatMap((l, i) => (l > from + SAME_LIFT && l < to - SAME_LIFT ? [[l, flows[i]!] as const] : []))
  const points = [[from, first] as const, ...inside, [to, last] as const]
  let area = 0
  for (let i = 1; i < points.length; i++)
    area += ((points[i]![1] + points[i - 1]![1]) / 2) * (points[i]![0] - points[i - 1]![0])
  return area / (to - from)
}

function against(c: Curve, baseline: Curve, range: readonly [number, number]) {
  const gain = c.mean === null || baseline.mean === null ? null : c.mean - baseline.mean
  const [all, inside] =
    c === baseline ? [NONE, NONE] : [[0, Infinity] as const, range].map(r => worstIn(c, baseline, r))
  return {
    meanFlow: c.mean,
    gain,
    gainPercent: gain === null ? null : (100 * gain) / baseline.mean!,
    worstLift: all!.lift,
    worstLoss: all!.loss,
    worstLiftInRange: inside!.lift,
    worstLossInRange: inside!.loss,
  }
}

const NONE = { lift: null, loss: null }

/** The largest loss at the baseline's lifts of a range that the other was read over; negative where it gained. */
function worstIn(
  c: Curve,
  baseline: Curve,
  [from, to]: readonly [number, number],
): { lift: number | null; loss: number | null } {
  return baseline.lifts.reduce<{ lift: number | null; loss: number | null }>((worst, lift, i) => {
    const here = at(c.lifts, c.flows, lift)
    if (lift < from - SAME_LIFT || lift > to + SAME_LIFT || here === null) return worst
    const loss = baseline.flows[i]! - here
    return worst.loss === null || loss > worst.loss ? { lift, loss } : worst
  }, NONE)
}

function curveTable(curves: readonly Curve[], s: FlowSettings): ResultTable {
  const rows = curves.flatMap(c =>
    c.lifts.map((lift, i) => ({
      config: c.config,
      lift,
      flow: c.flows[i]!,
      dischargeCoefficient:
        s.valveDiameter === undefined || Number.isNaN(c.densities[i]!)
          ? null
          : c.flows[i]! /
            (s.valves * Math.PI * s.valveDiameter * lift * Math.sqrt((2 * s.referenceDrop!) / c.densities[i]!)),
    })),
  )
  return tableOf(rows, { config: '', lift: 'm', flow: 'm³/s', dischargeCoefficient: '1' })
}
