import { BLOCK, blocksFor, type Arithmetic, type Blocks } from '../kernels/blocks'

/** Where a value stands: it is a number, or the number of a block. */
export type Operand = { kind: 'constant'; value: number } | { kind: 'block'; number: number }

type Sign = '+' | '-' | '*' | '/' | '^'

const NUMBERS: Record<Sign, (a: number, b: number) => number> = {
  '+': (a, b) => a + b,
  '-': (a, b) => a - b,
  '*': (a, b) => a * b,
  '/': (a, b) => a / b,
  '^': (a, b) => a ** b,
}
const ARITHMETIC: Partial<Record<Sign, Arithmetic>> = { '+': 'plus', '-': 'minus', '*': 'times', '/': 'over' }

/**
 * Operations on blocks of samples, put together one by one and then run along a record. The block of a result is free
 * again once it has been read, so that few of them are alive; channels and numbers keep theirs.
 */
export class BlockProgram {
  #steps: ((blocks: Blocks) => void)[] = []
  #channels = new Map<Float64Array, number>()
  #numbers = new Map<number, number>()
  #free: number[] = []
  #count = 0

  /** A channel; read once however often it is named. */
  channel(values: Float64Array): Operand {
    return { kind: 'block', number: keep(this.#channels, values, () => this.#count++) }
  }

  binary(sign: Sign, a: Operand, b: Operand): Operand {
    if (a.kind === 'constant' && b.kind === 'constant')
      return { kind: 'constant', value: NUMBERS[sign](a.value, b.value) }
    const what = ARITHMETIC[sign]
    if (!what) return this.call(([x, y]) => x! ** y!, [a, b])
    return this.#step(
      [a, b],
      ([x, y], out) =>
        blocks =>
          blocks.calculate(what, out, x!, y!),
    )
  }

  /** A function of any number of operands, sample by sample; with one operand `single` does the same quicker. */
  call(of: (args: readonly number[]) => number, operands: readonly Operand[], single?: (x: number) => number): Operand {
    if (operands.every(o => o.kind === 'constant')) return { kind: 'constant', value: of(operands.map(o => o.value)) }
    return this.#step(operands, (from, out) => {
      if (single && from.length === 1) return ({ values }) => eachOf(values, BLOCK * from[0]!, BLOCK * out, single)
      const [args, starts] = [from.map(() => 0), from.map(f => BLOCK * f)]
      return ({ values }) => {
        for (let i = 0; i < BLOCK; i++) {
          for (let k = 0; k < starts.length; k++) args[k] = values[starts[k]! + i]!
          values[BLOCK * out + i] = of(args)
        }
      }
    })
  }

  /** The values of an operand along a record of `length` samples. */
  run(result: Operand, length: number): Float64Array {
    const out = new Float64Array(length)
    if (result.kind === 'constant') return out.fill(result.value)
    const blocks = blocksFor(this.#count, length)
    for (const [value, number] of this.#numbers) blocks.values.fill(value, BLOCK * number, BLOCK * (number + 1))
    const answer = blocks.values.subarray(BLOCK * result.number, BLOCK * (result.number + 1))
    for (let at = 0; at < length; at += BLOCK) {
      for (const [values, number] of this.#channels)
        blocks.values.set(values.subarray(at, Math.min(at + BLOCK, length)), BLOCK * number)
      for (const step of this.#steps) step(blocks)
      out.set(at + BLOCK <= length ? answer : answer.subarray(0, length - at), at)
    }
    return out
  }

  #step(operands: readonly Operand[], made: (from: number[], out: number) => (blocks: Blocks) => void): Operand {
    const from = operands.map(o => (o.kind === 'block' ? o.number : keep(this.#numbers, o.value, () => this.#count++)))
    const lasting = new Set([...this.#channels.values(), ...this.#numbers.values()])
    for (const number of new Set(from)) if (!lasting.has(number)) this.#free.push(number)
    const out = this.#free.pop() ?? this.#count++
    this.#steps.push(made(from, out))
    return { kind: 'block', number: out }
  }
}

function keep<K, V>(map: Map<K, V>, key: K, make: () => V): V {
  if (!map.has(key)) map.set(key, make())
  return map.get(key)!
}

function eachOf(values: Float64Array, from: number, to: number, of: (x: number) => number): void {
  for (let i = 0; i < BLOCK; i++) values[to + i] = of(values[from + i]!)
}
