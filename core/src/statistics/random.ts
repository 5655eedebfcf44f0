/**
 * Seeded generator whose whole state is one 32-bit integer, so that a simulated run can be stopped and resumed.
 *
 * @source Mulberry32 mixing; normal draws by Box and Muller (1958)
 */
export class SeededRandom {
  constructor(public state: number) {}

  /** Uniform in [0, 1). */
  uniform(): number {
    this.state = (this.state + 0x6d2b79f5) | 0
    let z = this.state
    z = Math.imul(z ^ (z >>> 15), z | 1)
    z ^= z + Math.imul(z ^ (z >>> 7), z | 61)
    return ((z ^ (z >>> 14)) >>> 0) / 4294967296
  }

  /** Standard normal. */
  normal(): number {
    return Math.sqrt(-2 * Math.log(1 - this.uniform())) * Math.cos(2 * Math.PI * this.uniform())
  }

  /**
   * Chi-square with any positive degrees of freedom.
   *
   * @source Marsaglia & Tsang (2000), A simple method for generating gamma variables
   */
  chiSquare(dof: number): number {
    const shape = dof / 2
    const d = (shape < 1 ? shape + 1 : shape) - 1 / 3
    for (;;) {
      const z = this.normal()
      const v = (1 + z / Math.sqrt(9 * d)) ** 3
      if (v <= 0 || Math.log(1 - this.uniform()) >= (z * z) / 2 + d - d * v + d * Math.log(v)) continue
      return 2 * d * v * (shape < 1 ? (1 - this.uniform()) ** (1 / shape) : 1)
    }
  }
}
