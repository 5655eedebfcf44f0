export interface Mode {
  channel: string
  frequency: number
  damping: number | null
  amplitude: number
  coherence: number
  /** Where it stands among the bins. */
  bin: number
}
