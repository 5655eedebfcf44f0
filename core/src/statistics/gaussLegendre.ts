/**
 * Nodes and weights of Gauss–Legendre quadrature on [−1, 1], by Newton on the Legendre polynomial.
 *
 * @example gaussLegendre(2).nodes // ±1/√3
 */
export function gaussLegendre(n: number): { nodes: Float64Array; weights: Float64Array } {
  const [nodes, weights] = [new Float64Array(n), new Float64Array(n)]
  for (let i = 0; i < n; i++) {
    let x = Math.cos((Math.PI * (i + 0.75)) / (n + 0.5))
    let slope = 0
    for (let k = 0; k < 100; k++) {
      let [p0, p1] = [1, x]
      for (let j = 2; j <= n; j++) [p0, p1] = [p1, ((2 * j - 1) * x * p1 - (j - 1) * p0) / j]
      slope = (n * (x * p1 - p0)) / (x * x - 1)
      const step = p1 / slope
      x -= step
      if (Math.abs(step) < 1e-16) break
    }
    nodes[i] = x
    weights[i] = 2 / ((1 - x * x) * slope * slope)
  }
  return { nodes, weights }
}
