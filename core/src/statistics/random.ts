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
}
