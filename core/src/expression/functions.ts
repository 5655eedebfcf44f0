/** Functions of numbers, with how many arguments they take. */
export interface PlainFunction {
  least: number
  most: number
  of(args: readonly number[]): number
  /** The same where there is one argument. */
  single?: (x: number) => number
}

const one = (of: (x: number) => number): PlainFunction => ({ least: 1, most: 1, of: ([x]) => of(x!), single: of })
const many = (of: (...x: number[]) => number): PlainFunction => ({ least: 1, most: 32, of: args => of(...args) })

export const FUNCTIONS: Readonly<Record<string, PlainFunction>> = {
  exp: one(Math.exp),
  log: one(Math.log),
  log10: one(Math.log10),
  sqrt: one(Math.sqrt),
  sin: one(Math.sin),
  cos: one(Math.cos),
  tan: one(Math.tan),
  atan: one(Math.atan),
  abs: one(Math.abs),
  min: many(Math.min),
  max: many(Math.max),
  mean: many((...x) => x.reduce((s, v) => s + v, 0) / x.length),
  diff: { least: 2, most: 2, of: ([a, b]) => a! - b! },
}

/** Own properties only: `constructor` and its like are no functions here. */
export const functionNamed = (name: string): PlainFunction | undefined =>
  Object.hasOwn(FUNCTIONS, name) ? FUNCTIONS[name] : undefined
