/** Round values within a range, about `wanted` of them: 1, 2 or 5 times a power of ten apart. */
export function niceTicks(from: number, to: number, wanted: number): { step: number; values: number[] } {
  const span = to - from
  if (!(span > 0)) return { step: 1, values: [from] }
  const rough = span / wanted
  const power = 10 ** Math.floor(Math.log10(rough))
  const step = [1, 2, 5, 10].map(m => m * power).find(s => s >= rough * 0.999)!
  const first = Math.ceil(from / step - 1e-9)
  return {
    step,
    values: Array.from({ length: Math.max(0, Math.floor(to / step + 1e-9) - first + 1) }, (_, i) => (first + i) * step),
  }
}

/** A tick's text: no more decimals than its step has. */
export const tickText = (value: number, step: number): string => {
  const decimals = Math.max(0, -Math.floor(Math.log10(step) + 1e-9))
  return (Math.abs(value) < step / 1e6 ? 0 : value).toFixed(Math.min(decimals, 12)).replace('-', '−')
}
