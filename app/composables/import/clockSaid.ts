/** What is said of a clock that stands still or jumps; empty where nothing is. */
export interface ClockSaid {
  repeats: '' | 'drop' | 'average' | 'nudge'
  jumps: '' | 'first' | 'last' | 'longest'
}
