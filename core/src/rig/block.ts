/** Samples of channels that are read together: times, s, and readings, SI, of the same length. */
export interface RigBlock {
  t: number[]
  channels: Record<string, number[]>
  /** Which of the rates; 0 is the plan's own. */
  group?: number
}
