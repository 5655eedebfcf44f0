import { planFields } from '@hypomet/core'
import type { ConsoleView } from './useConsole'
import type { LiveView } from './useLiveRun'

const URGENT = new Set([
  'watch',
  'limit passed',
  'abort',
  'abort output failed',
  'article broke',
  'fixture gave way',
  'stream lost',
  'guard lost',
  'overload',
  'recorder',
])

/** As loud as they look: a siren goes before the words. */
const LOUD = new Set(['abort', 'article broke', 'fixture gave way', 'abort output failed'])

/**
 * Speaks what a crew must hear with its eyes on the article: the next load, rungs reached, count-downs, and whatever
 * goes wrong.
 */
export function useSpokenRun(live: LiveView, { showLoad, phase, target }: ConsoleView) {
  const speech = useSpeech()
  const siren = useSiren()
  const { page } = useTest()
  /** An abort says what the plan has for it. */
  const sentence = computed(() => {
    const { data = [] } = planFields.onAbort.safeParse(page.value.test.plan?.['onAbort'])
    return data.find(o => o.kind === 'voice')?.sentence
  })
  const wordsOf = (e: { kind: string; note: string }) =>
    (e.kind === 'abort' ? sentence.value : undefined) ?? (e.note.replace(/ \(.*\)$/, '') || e.kind)
  const spoken = (si: number) => showLoad.value(si).replace(/\u202f/g, ' ')
  const left = computed(() => Math.ceil(live.state.value?.countdown ?? -1))
  watch(phase, now => {
    if (now === 'ramp') speech.say(`Load to ${spoken(target.value)}`)
    if (now === 'waiting') speech.say('Look, and say go')
    if (now === 'unloading') speech.say('Unloading', true)
  })
  watch(left, seconds => {
    if (seconds === 10 || (seconds > 0 && seconds <= 3))
      speech.say(seconds === 10 ? 'Ten seconds of baseline, then load' : String(seconds), seconds <= 3)
    if (seconds === 0) speech.say('Load', true)
  })
  let heard = -1
  watch(live.events, list => {
    // What had happened before is not told again.
    if (heard >= 0)
      for (const e of list.slice(heard)) {
        if (e.kind === 'rung reached') speech.say(`${spoken(target.value)} on`)
        else if (URGENT.has(e.kind)) {
          if (speech.on.value && LOUD.has(e.kind)) siren.sound()
          speech.say(wordsOf(e), true)
        }
      }
    heard = list.length
  })
  return speech
}
