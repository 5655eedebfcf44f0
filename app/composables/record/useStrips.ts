import type { TimeView } from './useTimeView'
import type { RecordStrip } from '~/types/api'

/**
 * What is drawn of a record's chosen channels in a view. What is there already is not asked for again; while a question
 * is
 * under way, whatever changes is asked for once, when the answer has come.
 */
export function useStrips(
  recordId: number,
  chosen: Ref<number[]>,
  view: Ref<TimeView>,
  width: Ref<number>,
  run: (work: () => Promise<unknown>) => Promise<unknown>,
) {
  const api = useApi()
  const strip = shallowRef<RecordStrip | null>(null)
  let held: { key: string; strip: RecordStrip } | null = null
  let asked = 0

  const fetchStrip = () =>
    run(async () => {
      const wanted = [...chosen.value]
      const { from, to } = view.value
      const key = `${from} ${to} ${width.value}`
      const known: RecordStrip = held?.key === key ? held.strip : { times: [], channels: [] }
      const missing = wanted.filter(c => !known.channels.some(k => k.id === c))
      const got =
        missing.length === 0
          ? { times: [], channels: [] }
          : await api.get(`/api/datasets/${recordId}/strip`, {
              channels: missing.join(','),
              width: width.value,
              from,
              to,
            })
      const all = [...known.channels, ...got.channels.map(c => ({ ...c, time: c.time + known.times.length }))]
      held = { key, strip: { times: [...known.times, ...got.times], channels: all } }
      strip.value = { times: held.strip.times, channels: wanted.flatMap(id => all.find(c => c.id === id) ?? []) }
    })
  async function follow(): Promise<void> {
    if (++asked > 1) return
    for (let seen = 0; seen !== asked;) {
      seen = asked
      await fetchStrip()
    }
    asked = 0
  }
  onMounted(() => watch([view, chosen, width], () => width.value > 0 && void follow(), { immediate: true, deep: true }))
  /** Something of the record is no longer as it was. */
  function renew(): Promise<void> {
    held = null
    return follow()
  }
  return { strip, renew }
}
