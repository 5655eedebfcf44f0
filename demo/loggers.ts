import { simulateMap, STANDARD_GRAVITY } from '@hypomet/core'
import { benchLoggers } from './benchLoggers'
import { runners } from './specimens'
import { type DemoSpecimen } from './demoSpecimen'
import { comma, simulate, table, to } from './written'

/* The loggers of the specimens' rigs, each with habits of its own. */

/**
 * A crush that is over in milliseconds is simulated a thousand times slower: rigs of water and steel do not matter in
 * it.
 */
const SLOWED = 1000

/** A fast one, as it would be slow: its clock is set right on writing. */
function slowed(plan: DemoSpecimen['plan']): object {
  const seconds = (q: unknown) => ({ value: (q as { value: number }).value * SLOWED, unit: 's' })
  return {
    ...plan,
    ramp: seconds(plan['ramp']),
    rate: { value: 20, unit: 'Hz' },
    rungs: (plan.rungs as { hold: unknown }[]).map(r => ({ ...r, hold: seconds(r.hold) })),
  }
}

const loggers: Record<Exclude<DemoSpecimen['logger'], keyof typeof benchLoggers>, (s: DemoSpecimen) => string> = {
  pull: s => {
    // The crew pulled on until it broke, whatever the ladder's last rung.
    const {
      t,
      channels: { force, displacement },
    } = simulate(s, {
      ...s.plan,
      rungs: (s.plan.rungs as { target: { value: number } }[]).map((r, i) =>
        i === 2 ? { ...r, target: { ...r.target, value: 46 } } : r,
      ),
    })
    // A cell at its end reads no further.
    const most = (s.plan['gaugeFullScale'] as { value: number }).value * 1000
    return table(
      [`Pull bed, ${s.title}`, 'Time [s];Force [kN];Stretch [mm]'],
      t.length,
      i => [t[i]!.toFixed(1), to(Math.min(most, force![i]!), 'kN').toFixed(3), to(displacement![i]!, 'mm').toFixed(2)],
      ';',
    )
  },
  'call-outs': s => {
    const {
      t,
      channels: { force },
    } = simulate(s)
    // Somebody shouts every five kilonewtons, and once more before it goes.
    const peak = Math.max(...force!)
    const called = [5, 10, 15, 20, 25, 27].filter(kN => kN * 1000 < peak)
    return table(
      ['Read off the crane scale', 'Called at [s];Force [kN];'],
      called.length,
      i => [t[force!.findIndex(f => f >= called[i]! * 1000)]!.toFixed(0), called[i]!, ''],
      ';',
    )
  },
  burst: s => {
    const {
      t,
      channels: { pressure, temperature },
    } = simulate(s)
    return table(
      [`# ${s.title}`, 'Zeit;Druck;Wasser', '[s];[kPa];[°C]'],
      t.length,
      i => [comma(t[i]!, 2), comma(to(pressure![i]!, 'kPa'), 3), comma(to(temperature![i]!, '°C'), 2)],
      ';',
    )
  },
  leak: s => {
    const {
      t,
      channels: { pressure, temperature },
    } = simulate(s)
    return table(
      [`# ${s.title}, hall doors in the sun`, 'Zeit;Druck;Wasser', '[s];[kPa];[°C]'],
      t.length,
      i => [comma(t[i]!, 0), comma(to(pressure![i]!, 'kPa'), 3), comma(to(temperature![i]!, '°C'), 3)],
      ';',
    )
  },
  crush: s => {
    const fast = (s.plan['speed'] as { unit: string }).unit === 'm/s'
    const {
      t,
      channels: { force, displacement },
    } = simulate(s, fast ? slowed(s.plan) : s.plan)
    const until = displacement!.indexOf(Math.max(...displacement!)) + 20
    return table(
      [`Press, ${s.title}`, 'Time,Crush force,Platen', fast ? 'ms,kN,mm' : 's,kN,mm'],
      Math.min(until, t.length),
      i => [
        fast ? t[i]!.toFixed(2) : t[i]!.toFixed(1),
        to(force![i]!, 'kN').toFixed(4),
        to(displacement![i]!, 'mm').toFixed(3),
      ],
    )
  },
  drop: s => {
    const {
      t,
      channels: { acceleration },
    } = simulate(s)
    const peak = acceleration!.indexOf(Math.max(...acceleration!))
    const [from, count] = [peak - 400, 1600]
    return table(
      [`Drop tower, ${s.title}`, 'Pre-trigger 200 ms', 't [ms],Cabin floor [g]'],
      count,
      i => [(1000 * (t[i]! - t[from]!)).toFixed(1), (acceleration![i]! / STANDARD_GRAVITY).toFixed(4)],
      ',',
      from,
    )
  },
  descent: s => {
    const {
      t,
      channels: { altitude, riserForce },
    } = simulate(s)
    const high = altitude!.reduce((best, h, i) => (h > altitude![best]! ? i : best), 0)
    const gone = altitude!.findIndex((h, i) => i > high && h < altitude![high]! - 6)
    const from = Math.max(0, gone - 60)
    const ground = altitude!.findIndex((h, i) => i > gone && h < 3)
    return table(
      [`Pod logger, ${s.title}`, 'Time [s],Height [ft],Riser [lbf]'],
      ground + 20 - from,
      i => [(t[i]! - t[from]!).toFixed(2), to(altitude![i]!, 'ft').toFixed(2), to(riserForce![i]!, 'lbf').toFixed(1)],
      ',',
      from,
    )
  },
  bench: s => {
    const configs = Object.entries(runners).slice(0, s.revision === 'C' ? 3 : 2)
    const rows = configs.flatMap(([name, truth], k) => {
      const {
        t,
        channels: { flow, drop },
      } = simulate({ ...s, seed: s.seed + k, truth: { leak: 6e-4, throat: 0.245, ...truth } })
      return [0, 2, 4, 6, 8, 10].map((mm, r) => {
        // The bench hand reads in the middle of each hold.
        const i = t.findIndex(x => x >= 9 * r + 3)
        return [
          name,
          mm.toFixed(1),
          to(flow![i]!, 'cfm').toFixed(2),
          to(drop![i]!, 'inH2O').toFixed(2),
          '68.0',
          '26.70',
        ]
      })
    })
    return table(
      ['Bench, adapter 2', 'Runner,Lift [mm],Flow [cfm],Drop [inH2O],Air [°F],Barometer [inHg]'],
      rows.length,
      i => rows[i]!,
    )
  },
  map: s => {
    const hot =
      s.revision === 'B' ? { hotX: 0.009, hotY: 0.008, excess: 0.55 } : { hotX: -0.006, hotY: 0.004, excess: 0.18 }
    const rows = simulateMap({ radius: 0.014, step: 0.004, mean: 62, seed: s.seed, ...hot })
    return table([`Probe grid, ${s.title}`, 'x [mm],y [mm],q [Pa]'], rows.length, i => [
      to(rows[i]!.x, 'mm').toFixed(1),
      to(rows[i]!.y, 'mm').toFixed(1),
      rows[i]!.q.toFixed(1),
    ])
  },
}

export const specimenFile = (s: DemoSpecimen): string => ({ ...loggers, ...benchLoggers })[s.logger](s)
