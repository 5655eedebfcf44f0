import { isWired, outputWords, type AbortOutput, type WiredOutput } from '@hypomet/core'
import { fire } from './abortOutput'

/** An output that does not answer is tried again so often, so many ms apart. */
const [TRIES, APART] = [40, 250]

/** What an abort sets going outside of Hypomet: all at once, each until it answers, and what came of it in words. */
export class AbortOutputs {
  private readonly wired: WiredOutput[]
  private isFired = false

  /** @param say  an event of the run: whether it was taken, words, and which output */
  constructor(
    outputs: readonly AbortOutput[],
    private readonly say: (isTaken: boolean, words: string, output: string) => void,
  ) {
    this.wired = outputs.filter(isWired)
  }

  get any(): boolean {
    return this.wired.length > 0
  }

  /** Once a run. */
  fire(): void {
    if (this.isFired) return
    this.isFired = true
    for (const o of this.wired) void this.until(o)
  }

  private async until(output: WiredOutput): Promise<void> {
    const which = outputWords(output)
    for (let i = 0; i < TRIES; i++) {
      try {
        const ms = await fire(output)
        return this.say(true, `${which}: taken after ${ms.toFixed(0)} ms${i > 0 ? `, at try ${i + 1}` : ''}`, which)
      } catch (e) {
        if (i === 0) this.say(false, `${(e as Error).message} Unload by hand; it is tried again.`, which)
        await new Promise(resolve => setTimeout(resolve, APART))
      }
    }
    this.say(false, `${which}: not taken in ${TRIES} tries.`, which)
  }
}
