const [LOW, HIGH] = [620, 1240]
/** s that it sounds, and that one turn of it lasts. */
const [LASTS, TURN] = [3, 0.5]
const LOUD = 0.6

/** A siren by the browser's own tone; what is said comes after it. */
export function useSiren() {
  let context: AudioContext | null = null
  function sound(): void {
    if (!import.meta.client || !('AudioContext' in window)) return
    context ??= new AudioContext()
    const from = context.currentTime
    const tone = context.createOscillator()
    const loudness = context.createGain()
    tone.type = 'square'
    for (let t = 0; t < LASTS; t += TURN) {
      tone.frequency.setValueAtTime(LOW, from + t)
      tone.frequency.linearRampToValueAtTime(HIGH, from + t + TURN)
    }
    loudness.gain.setValueAtTime(LOUD, from)
    loudness.gain.linearRampToValueAtTime(0, from + LASTS)
    tone.connect(loudness).connect(context.destination)
    tone.start(from)
    tone.stop(from + LASTS)
  }
  return { sound }
}
