import { families, findUnit, simulatedRigOf, viewPlanOf, type RigBlock } from '@hypomet/core'
import type { DemoSpecimen } from './demoSpecimen'

/* What the stand-in for a rig records of a plan, and how loggers write it. */

export const to = (si: number, unit: string): number => {
  const { shift, multiply, divide } = findUnit(unit)!
  return (si * divide) / multiply - shift
}

export function simulate(
  { family, plan, truth, seed }: Pick<DemoSpecimen, 'family' | 'plan' | 'truth' | 'seed'>,
  written: object = plan,
): RigBlock {
  const viewed = viewedPlan({ family, plan }, written)
  return simulatedRigOf(
    family,
    viewed,
    {},
    { seed, truth: truthOf({ family, plan, seed, ...(truth && { truth }) }, viewed) },
  ).whole(seed).blocks[0]!
}

const viewedPlan = ({ family, plan }: Pick<DemoSpecimen, 'family' | 'plan'>, written: object = plan) =>
  viewPlanOf(family, { ...written, channels: plan.channels.map(({ sensor: _, ...c }) => c) }, {}, {})

/** What an article really does: as drawn, and as the story says. */
export function truthOf(
  { family, plan, truth, seed }: Pick<DemoSpecimen, 'family' | 'plan' | 'truth' | 'seed'>,
  viewed = viewedPlan({ family, plan }),
): Record<string, number> {
  return { ...(families[family]!.stages.specimen.draw(viewed.plan, {}, seed) as object), ...truth }
}

type Row = (i: number) => (string | number)[]
export const table = (head: string[], n: number, row: Row, delimiter = ',', from = 0): string =>
  [...head, ...Array.from({ length: n }, (_, i) => row(from + i).join(delimiter))].join('\n') + '\n'
export const comma = (value: number, digits: number) => value.toFixed(digits).replace('.', ',')
