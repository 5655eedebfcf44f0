import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { families, findUnit, parseSettings, type RigBlock } from '@hypomet/core'
import { revisions, truths } from './scenario'

/** Loggers have habits: the file of A comes from a hired rig in pounds and inches, that of B with decimal commas. */
export function demoFiles(): Record<string, string> {
  return { 'hanger-arm-a.csv': hiredRig(record('A')), 'hanger-arm-b.csv': ownLogger(record('B')) }
}

function record(label: 'A' | 'B'): RigBlock {
  const { plan: written, } = revisions.find(r => r.label === label)!.test
  const { properties } = revisions.find(r => r.label === label)!
  const { stages } = families['static']!
  const plan = parseSettings(stages.plan, { ...written, channels: written.channels.map(({ sensor: _, ...c }) => c) }, 'plan') as { rate: number }
  const article = parseSettings(stages.article, properties, 'properties')
  const { seed, ...truth } = truths[label]
  return stages.rig.advance(plan, article, truth, stages.rig.start(seed), 600 * plan.rate).block as RigBlock
}

const to = (si: number, unit: string): number => {
  const { multiply, divide } = findUnit(unit)!
  return (si * divide) / multiply
}

/** The crew stopped the logger soon after the clamp let go: there is no zero at the end. Samples. */
const STOPPED_AFTER = 25

function hiredRig({ t, channels }: RigBlock): string {
  const peak = channels['load']!.indexOf(Math.max(...channels['load']!))
  const rows = t.slice(0, peak + STOPPED_AFTER).map((time, i) => [time.toFixed(1), to(channels['load']![i]!, 'lbf').toFixed(2), to(channels['deflection']![i]!, 'in').toFixed(4), to(channels['strainRoot']![i]!, 'µε').toFixed(1)].join(','))
  return ['Rig 2, Varnholt hire bay', 'Job,Tarn carrier hanger arm rev A', 'Scan rate,10 Hz', '', 'Elapsed,Load Cell 1,String Pot Tip,SG Root', 's,lbf,in,ue', ...rows].join('\r\n') + '\r\n'
}

/** A loose plug: the frame gauge is gone for a while. */
const PLUG_OUT = [96, 101] as const

function ownLogger({ t, channels }: RigBlock): string {
  const comma = (value: number, digits: number) => value.toFixed(digits).replace('.', ',')
  const rows = t.map((time, i) => {
    const frame = time >= PLUG_OUT[0] && time < PLUG_OUT[1] ? '' : comma(to(channels['frame']![i]!, 'mm'), 3)
    return [comma(time, 1), comma(to(channels['load']![i]!, 'kN'), 4), comma(to(channels['deflection']![i]!, 'mm'), 3), comma(to(channels['strainRoot']![i]!, 'µε'), 1), frame].join(';')
  })
  return ['# Varnholt bench logger', '# Hanger arm B, new clamp', 'Zeit;Last;Weg Spitze;DMS Wurzel;Rahmen', '[s];[kN];[mm];[µε];[mm]', ...rows].join('\n') + '\n'
}

if (process.argv[1]?.endsWith('generate.ts')) for (const [name, text] of Object.entries(demoFiles())) writeFileSync(join(import.meta.dirname, 'data', name), text)
