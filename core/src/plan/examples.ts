import * as z from 'zod'
import type { Kind } from '../quantity/index'
import { stop, type Finding } from './finding'

/** Parts of a plan that hold example numbers, until somebody types their own or says that they are right. */
export const examplesField = z.array(z.string()).default([])

/** What of a plan is looked at here; a plan is built from this file, so it can't be named. */
interface Exampled {
  examples: readonly string[]
  loading: { kind: string; settings: unknown }
  rungs: unknown[]
}

const spoken = (key: string): string => key.replaceAll(/[A-Z]/g, c => ` ${c.toLowerCase()}`)

/** Each part that holds examples keeps the plan from being released. */
export function exampleFindings(
  { examples, commanded }: { examples: readonly string[]; commanded: { kind: Kind } },
  maxTarget: number,
  show: (si: number, kind: Kind) => string,
): Finding[] {
  const words = (part: string): string =>
    part === 'loading'
      ? 'The numbers of how the load is brought in are examples, not yours.'
      : part === 'rungs'
        ? `The ladder up to ${show(maxTarget, commanded.kind)} is an example: no limit says how far to go.`
        : `The ${spoken(part)} is an example, not yours.`
  return examples.map(part => stop('example-values', part, words(part), 'Type your own, or say that they are right.'))
}

/** A plan as far as somebody said it: what holds examples is not known. */
export function withoutExamples<P extends Exampled>(plan: P): P {
  const said = { ...plan }
  for (const part of plan.examples)
    if (part === 'loading') said.loading = { kind: 'direct', settings: {} }
    else if (part === 'rungs') said.rungs = []
    else Reflect.deleteProperty(said, part)
  return said
}
