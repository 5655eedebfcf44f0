import { families, findUnit, simulatedRigOf, viewPlanOf, type RigBlock } from '@hypomet/core'
import type { DemoSpecimen } from './specimens'

/* What the stand-in for a rig records of a plan, and how loggers write it. */

export const to = (si: number, unit: string): number => {
  const { shift, multiply, divide } = findUnit(unit)!
  return (si * divide) / multiply - shift
}

export function simulate({ family, plan, truth, seed }: Pick<DemoSpecimen, 'family' | 'plan' | 'truth' | 'seed'>, written: object = plan): RigBlock {
  const entered = { ...written, channels: plan.channels.map(({ sensor: _, ...c }) => c) }
  const viewed = viewPlanOf(family, entered, {}, {})
  const specimen = families[family]!.stages.specimen!
  const drawn = specimen.draw(viewed.plan, {}, seed) as object
  return simulatedRigOf(family, viewed, {}, { seed, truth: { ...drawn, ...truth } }).whole(seed).blocks[0]!
}

type Row = (i: number) => (string | number)[]
export const table = (head: string[], n: number, row: Row, delimiter = ',', from = 0): string => [...head, ...Array.from({ length: n }, (_, i) => row(from + i).join(delimiter))].join('\n') + '\n'
export const comma = (value: number, digits: number) => value.toFixed(digits).replace('.', ',')
