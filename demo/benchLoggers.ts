import { barWaves, couponStrain, impedanceOf, pistonAt, SeededRandom } from '@hypomet/core'
import type { DemoSpecimen } from './demoSpecimen'
import { comma, simulate, table, to, truthOf } from './written'

/* Loggers of benches and laboratories. */

const rows = (from: number, until: number, step: number): number[] =>
  Array.from({ length: Math.floor((until - from) / step + 1e-9) + 1 }, (_, i) => from + i * step)
type Bench = 'buckling' | 'spin' | 'thermal' | 'torque' | 'vibration' | 'bar' | 'sweep' | 'beam' | 'coupons'

export const benchLoggers: Record<Bench, (s: DemoSpecimen) => string> = {
  buckling: s => {
    const { t, channels } = simulate(s)
    const dents = Object.keys(channels)
      .filter(r => r.startsWith('dent'))
      .sort((a, b) => Number(a.slice(4)) - Number(b.slice(4)))
    // Stopped a second after it snapped.
    const end = channels['force']!.indexOf(Math.max(...channels['force']!)) + 10
    return table(
      [
        `Press hall, ${s.title}`,
        [
          'Time [s]',
          'Axial force [kN]',
          'Moment at the head [kN·m]',
          'Inner pressure [kPa]',
          'Shortening [mm]',
          ...dents.map((_, i) => `Dent gauge ${i + 1} [mm]`),
        ].join(','),
      ],
      end,
      i => [
        t[i]!.toFixed(1),
        to(channels['force']![i]!, 'kN').toFixed(3),
        to(channels['moment']![i]!, 'kN·m').toFixed(4),
        to(channels['pressure']![i]!, 'kPa').toFixed(3),
        to(channels['deflection']![i]!, 'mm').toFixed(4),
        ...dents.map(d => to(channels[d]![i]!, 'mm').toFixed(4)),
      ],
    )
  },
  spin: s => {
    // The last set-point was never commanded.
    const { t, channels: c } = simulate(s, { ...s.plan, rungs: s.plan.rungs.filter((_, i) => i !== 6) })
    return table(
      [
        `Thrust bench, ${s.title}`,
        'Time;Set-point;Thrust;Torque cell A;Torque cell B;Supply;Current;Speed;Winding;Bearing housing',
        's;%;N;N;N;V;A;rpm;°C;g',
      ],
      t.length,
      i => [
        t[i]!.toFixed(3),
        to(c['setpoint']![i]!, '%').toFixed(2),
        c['thrust']![i]!.toFixed(2),
        c['forceA']![i]!.toFixed(3),
        c['forceB']![i]!.toFixed(3),
        c['voltage']![i]!.toFixed(3),
        c['current']![i]!.toFixed(3),
        to(c['speed']![i]!, 'rpm').toFixed(1),
        to(c['temperature']![i]!, '°C').toFixed(2),
        (c['vibration']![i]! / 9.80665).toFixed(4),
      ],
      ';',
    )
  },
  thermal: s => {
    const { t, channels: c } = simulate(s)
    return table(
      [`# ${s.title}`, 'Zeit;Kondensatoren;Leistung', '[s];[°C];[W]'],
      t.length,
      i => [t[i]!.toFixed(0), comma(to(c['temperature']![i]!, '°C'), 2), comma(c['power']![i]!, 1)],
      ';',
    )
  },
  torque: s => {
    const { t, channels: c } = simulate(s)
    const end = c['torque']!.indexOf(Math.max(...c['torque']!)) + 12
    return table(
      [`Torque bench, ${s.title}`, 'Time [s],Torque at the arm [ft·lbf],Twist over the gauge length [°]'],
      end,
      i => [t[i]!.toFixed(1), to(c['torque']![i]!, 'ft·lbf').toFixed(2), to(c['twist']![i]!, '°').toFixed(4)],
    )
  },
  vibration: s => {
    const { t, channels: c } = simulate(s)
    return table(
      [`Shaker, ${s.title}`, 'Time [s],Base plate [g],Cabinet top [g],Cabinet middle [g],Cabinet foot [g]'],
      t.length,
      i => [t[i]!.toFixed(6), ...['drive', 'response', 'middle', 'foot'].map(r => (c[r]![i]! / 9.80665).toFixed(4))],
    )
  },
  bar: s => {
    const waves = barWaves(truthOf(s) as never)
    const random = new SeededRandom(s.seed)
    const t = rows(-120e-6, 950e-6, 0.5e-6)
    const read = (v: number) => (1e6 * v + 2.5 * random.normal()).toFixed(1)
    return table([`Bars, ${s.title}`, 't [µs],Incident bar [µε],Transmitted bar [µε]'], t.length, i => [
      (1e6 * t[i]!).toFixed(1),
      read(waves.incident(t[i]!)),
      read(waves.transmitted(t[i]!)),
    ])
  },
  sweep: s => {
    const truth = truthOf(s)
    const random = new SeededRandom(s.seed)
    const f = [...rows(1, 30, 0.5), ...rows(30.1, 55, 0.1), ...rows(56, 80, 1)]
    return table(
      [`Impedance analyser, ${s.title}`, 'Frequency [kHz];Impedance [ohm];Phase [°]'],
      f.length,
      i => {
        const z = impedanceOf(truth as never, 1000 * f[i]!)
        return [
          comma(f[i]!, 1),
          comma(z.size * (1 + 0.002 * random.normal()), 2),
          comma(to(z.phase, '°') + 0.08 * random.normal(), 3),
        ]
      },
      ';',
    )
  },
  beam: s => {
    const random = new SeededRandom(s.seed)
    const angle = rows(-90, 90, 1.5)
    return table([`Tank, ${s.title}`, 'Angle [°],Hydrophone [dB]'], angle.length, i => [
      angle[i]!.toFixed(1),
      (139 + 20 * Math.log10(Math.abs(pistonAt(angle[i]! / 11)) + 0.004) + 0.08 * random.normal()).toFixed(2),
    ])
  },
  coupons: s => couponFile(s),
}

const POINTS = 45

function couponFile(s: DemoSpecimen): string {
  const random = new SeededRandom(s.seed)
  const { count, modulus, strength } = s.truth as { count: number; modulus: number; strength: number }
  const kind = s.plan['kind'] as string
  const lines = Array.from({ length: count }, (_, k) => {
    const [width, thickness] = [0.025 * (1 + 0.004 * random.normal()), 0.003 * (1 + 0.01 * random.normal())]
    // A hole that the drill had torn.
    const weak = kind === 'bearing' && k === 3 ? 0.6 : 1
    const [E, most] = [modulus * (1 + 0.02 * random.normal()), strength * weak * (1 + 0.035 * random.normal())]
    const area = kind === 'bearing' ? 0.006 * thickness : width * thickness * (kind === 'inPlaneShear' ? 2 : 1)
    const failure =
      kind === 'bearing' ? (weak < 1 ? 'B2I' : 'B1I') : kind === 'inPlaneShear' ? 'AGM' : k % 3 === 2 ? 'LGM' : 'AGM'
    const name = `${kind[0]!.toUpperCase()}-${k + 1}`
    return Array.from({ length: POINTS }, (_, i) => {
      const stress = (most * i) / (POINTS - 1)
      const strain = couponStrain(
        { modulus: E, soften: kind === 'inPlaneShear' ? 0.024 : kind === 'bearing' ? 0.16 : 0 },
        stress,
      )
      const gauge =
        kind === 'bearing'
          ? [(6 * strain).toFixed(5)]
          : kind === 'inPlaneShear'
            ? [(0.5e6 * strain + 6 * random.normal()).toFixed(0), (-0.5e6 * strain + 6 * random.normal()).toFixed(0)]
            : [(1e6 * strain + 6 * random.normal()).toFixed(0)]
      return [
        name,
        (1000 * width).toFixed(2),
        (1000 * thickness).toFixed(3),
        ((stress * area) / 1000 + 0.002 * random.normal()).toFixed(3),
        ...gauge,
        failure,
      ]
    })
  }).flat()
  const head =
    kind === 'bearing'
      ? 'Displacement [mm]'
      : kind === 'inPlaneShear'
        ? 'Strain [µε],Strain across [µε]'
        : 'Strain [µε]'
  return table(
    [`Coupon press, ${s.title}`, `Specimen,Width [mm],Thickness [mm],Force [kN],${head},How it failed`],
    lines.length,
    i => lines[i]!,
  )
}
