import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { findUnit, SeededRandom, simulatedRigOf, viewPlanOf, type RigBlock } from '@hypomet/core'
import { revisions, truths } from './scenario'
import { specimenFile } from './loggers'
import { specimens } from './specimens'
import { staticArticles } from './stages'

/**
 * Loggers have habits: the file of A comes from a hired rig in pounds and inches, that of B with decimal commas, and
 * beside
 * it one of a second, faster logger with a clock of its own.
 */
export function demoFiles(): Record<string, string> {
  return {
    'hanger-arm-a.csv': hiredRig(record('A')),
    'hanger-arm-b.csv': ownLogger(record('B')),
    'hanger-arm-b-fast.csv': fastLogger(record('B')),
    ...stageFiles(),
    'platform-targets.csv': platformTargets(),
    ...Object.fromEntries(specimens.map(s => [s.file, specimenFile(s)])),
  }
}

type Written = { rungs: readonly object[]; channels: readonly { sensor: unknown }[] }

/** What the stand-in for a rig records of a plan, with a go at every rung that waits for one. */
function simulate(written: Written, properties: unknown, seed: number, truth?: unknown): RigBlock {
  const plan = { ...written, channels: written.channels.map(({ sensor: _, ...c }) => c) }
  return simulatedRigOf('static', viewPlanOf('static', plan, properties, {}), properties, { seed, truth }).whole(seed)
    .blocks[0]!
}

function record(label: 'A' | 'B'): RigBlock {
  const { test, properties } = revisions.find(r => r.label === label)!
  const { seed, ...truth } = truths[label]
  return simulate(test.plan, properties, seed, truth)
}

/** Records of the tests that wait at a stage: drawn articles, an own logger in plain columns. */
function stageFiles(): Record<string, string> {
  return Object.fromEntries(
    staticArticles.flatMap(a => {
      if (!('file' in a.test)) return []
      const { t, channels } = simulate(a.test.plan, a.properties, a.test.seed)
      const rows = t.map((time, i) =>
        [time.toFixed(2), channels['load']![i]!.toFixed(1), to(channels['deflection']![i]!, 'mm').toFixed(3)].join(','),
      )
      return [
        [
          a.test.file,
          [`Varnholt bench logger, ${a.name}`, 'Time [s],Load [N],Deflection [mm]', ...rows].join('\n') + '\n',
        ],
      ]
    }),
  )
}

/** Targets on the platform’s beam and on its brackets, a picture every two seconds. */
const CAMERA = { every: 2, seed: 20267, noise: 15e-6, brackets: 0.06, turn: 0.0004, span: 3 }

/** What the cameras saw of the platform: the beam sags between brackets that sag a little themselves. */
function platformTargets(): string {
  const platform = staticArticles.find(a => a.name === 'Service platform beam')!
  const { t, channels } = simulate(platform.test.plan, platform.properties, (platform.test as { seed: number }).seed)
  const random = new SeededRandom(CAMERA.seed)
  const sag = channels['deflection']!
  const rest = sag.slice(0, 20).reduce((a, b) => a + b, 0) / 20
  const holders = [0, CAMERA.span].flatMap((x, side) =>
    [-0.15, 0, 0.15].map((y, i) => ({
      name: `Bracket${side * 3 + i + 1}`,
      x: x + (i === 1 ? -0.05 : 0),
      y,
      isBeam: false,
    })),
  )
  const beam = Array.from({ length: 9 }, (_, i) => 0.3 + 0.3 * i).flatMap((x, i) => [
    { name: `L${i + 1}`, x, y: 0.04, isBeam: true },
    { name: `R${i + 1}`, x, y: -0.04, isBeam: true },
  ])
  const all = [...holders, ...beam]
  const rows: string[] = []
  for (let i = 0; i < t.length; i++) {
    if (i > 0 && Math.floor(t[i]! / CAMERA.every) === Math.floor(t[i - 1]! / CAMERA.every)) continue
    const d = sag[i]! - rest
    const cells = all.flatMap(({ x, y, isBeam }) => {
      const bent = isBeam
        ? -(1 - CAMERA.brackets) * d * Math.sin((Math.PI * x) / CAMERA.span) +
          0.02 * d * (y / 0.04) * Math.sin((Math.PI * x) / CAMERA.span)
        : 0
      const turned = CAMERA.turn * (d / 0.02) * (x - CAMERA.span / 2)
      return [x, y, bent - CAMERA.brackets * d + turned].map(v =>
        (1000 * (v + CAMERA.noise * random.normal())).toFixed(3),
      )
    })
    rows.push([t[i]!.toFixed(2), ...cells].join(','))
  }
  return (
    [
      'Two cameras over the platform',
      ['Time [s]', ...all.flatMap(a => ['x', 'y', 'z'].map(axis => `${a.name} ${axis} [mm]`))].join(','),
      ...rows,
    ].join('\n') + '\n'
  )
}

const to = (si: number, unit: string): number => {
  const { multiply, divide } = findUnit(unit)!
  return (si * divide) / multiply
}

/** The crew stopped the logger soon after the clamp let go: there is no zero at the end. Samples. */
const STOPPED_AFTER = 25

function hiredRig({ t, channels }: RigBlock): string {
  const peak = channels['load']!.indexOf(Math.max(...channels['load']!))
  const rows = t
    .slice(0, peak + STOPPED_AFTER)
    .map((time, i) =>
      [
        time.toFixed(1),
        to(channels['load']![i]!, 'lbf').toFixed(2),
        to(channels['deflection']![i]!, 'in').toFixed(4),
        to(channels['strainRoot']![i]!, 'µε').toFixed(1),
      ].join(','),
    )
  return (
    [
      'Rig 2, Varnholt hire bay',
      'Job,Tarn carrier hanger arm rev A',
      'Scan rate,10 Hz',
      '',
      'Elapsed,Load Cell 1,String Pot Tip,SG Root',
      's,lbf,in,ue',
      ...rows,
    ].join('\r\n') + '\r\n'
  )
}

/** A loose plug: the frame gauge is gone for a while. */
const PLUG_OUT = [96, 101] as const

function ownLogger({ t, channels }: RigBlock): string {
  const comma = (value: number, digits: number) => value.toFixed(digits).replace('.', ',')
  const rows = t.map((time, i) => {
    const frame = time >= PLUG_OUT[0] && time < PLUG_OUT[1] ? '' : comma(to(channels['frame']![i]!, 'mm'), 3)
    return [
      comma(time, 1),
      comma(to(channels['load']![i]!, 'kN'), 4),
      comma(to(channels['deflection']![i]!, 'mm'), 3),
      comma(to(channels['strainRoot']![i]!, 'µε'), 1),
      frame,
    ].join(';')
  })
  return (
    [
      '# Varnholt bench logger',
      '# Hanger arm B, new clamp',
      'Zeit;Last;Weg Spitze;DMS Wurzel;Rahmen',
      '[s];[kN];[mm];[µε];[mm]',
      ...rows,
    ].join('\n') + '\n'
  )
}

/** Started so much after the other logger, s, at this time of day. */
const FAST = { rate: 50, late: 4.2, from: 10 * 3600 + 31 * 60 + 7.2, gaugeClips: 1900e-6, slipsAt: 215, seed: 20263 }

/**
 * A second gauge at the root whose bond begins to slip, one that clips, and an accelerometer that hears the ladder
 * being climbed.
 */
function fastLogger({ t, channels }: RigBlock): string {
  const random = new SeededRandom(FAST.seed)
  const strain = channels['strainRoot']!
  const last = t.at(-1)!
  const rows: string[] = []
  let [at, slip] = [0, 0]
  for (let i = 0; FAST.late + i / FAST.rate < last; i++) {
    const time = FAST.late + i / FAST.rate
    while (t[at + 1]! < time) at++
    const share = (time - t[at]!) / (t[at + 1]! - t[at]!)
    const e = strain[at]! + share * (strain[at + 1]! - strain[at]!)
    const rate = (strain[at + 1]! - strain[at]!) / (t[at + 1]! - t[at]!)
    if (time > FAST.slipsAt) slip += 1.4e-6 / FAST.rate
    const twin = e * 0.994 - slip + 1.2e-6 * random.normal()
    const middle = Math.min(FAST.gaugeClips, 0.55 * e + 1.2e-6 * random.normal())
    const shake = 0.004 * random.normal() + (Math.abs(rate) > 20e-6 ? 0.05 * random.normal() : 0)
    rows.push(
      [
        clockTime(FAST.from + i / FAST.rate),
        to(twin, 'µε').toFixed(1),
        to(middle, 'µε').toFixed(1),
        shake.toFixed(4),
      ].join('|'),
    )
  }
  return (
    ['Hired fast logger, slot 3', 'Clock|DMS root twin [µε]|DMS mid span [µε]|Acc tip [m/s2]', ...rows].join('\n') +
    '\n'
  )
}

const two = (n: number): string => String(Math.floor(n)).padStart(2, '0')
const clockTime = (s: number): string =>
  [two(s / 3600), two((s % 3600) / 60), (s % 60).toFixed(2).padStart(5, '0')].join(':')

if (process.argv[1]?.endsWith('generate.ts'))
  for (const [name, text] of Object.entries(demoFiles())) writeFileSync(join(import.meta.dirname, 'data', name), text)
