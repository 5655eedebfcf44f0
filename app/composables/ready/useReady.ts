import { READY_GROUPS } from '@hypomet/core'
import type { TestPage } from '~/types/api'

type Item = TestPage['ready'][number]
/** What is ticked off, read or signed; lessons are answered apart. */
export type ReadyTick = Exclude<Item, { group: 'Lessons' }>

export const isOpenItem = (i: { state: string }): boolean => i.state === 'open' || i.state === 'failed'

export interface GaugeRow {
  role: string
  label: string
  place: string
  sensor: string
  cells: ReadyTick[]
}

/** The checklist of the loaded test, in its groups and as a grid of gauges by stage. */
export function useReady() {
  const { page, store } = useTest()
  const { busy, problem, run } = useAction()
  const items = computed(() => page.value.ready)
  const list = computed(() => items.value.filter((i): i is ReadyTick => i.group !== 'Lessons'))
  const groups = computed(() =>
    READY_GROUPS.map(group => ({ group, items: list.value.filter(i => i.group === group) })).filter(
      g => g.items.length > 0,
    ),
  )
  const open = computed(() => items.value.filter(isOpenItem).length)
  const rows = computed((): GaugeRow[] => {
    const gauges = list.value.filter(i => i.gauge)
    return [...new Set(gauges.map(i => i.gauge!.role))].map(role => {
      const channel = page.value.view?.channels.find(c => c.role === role)
      return {
        role,
        label: channel?.label ?? role,
        place: channel?.place ?? '',
        sensor: page.value.sensors.find(s => s.id === channel?.sensorId)?.name ?? 'no sensor',
        cells: gauges.filter(i => i.gauge!.role === role),
      }
    })
  })
  /** Gauges that go through the same stages stand in one grid. */
  const grids = computed(() => {
    const stages = (r: GaugeRow) => r.cells.map(c => c.gauge!.label).join('|')
    return [...new Set(rows.value.map(stages))].map(key => ({
      key,
      stages: key.split('|'),
      rows: rows.value.filter(r => stages(r) === key),
    }))
  })
  const mark = (key: string, state: 'open' | 'done' | 'overridden', more: { reason?: string; reading?: string } = {}) =>
    run(async () => (await store.mark({ key, state, ...more })).state)
  /** Makes an output of the abort do what it does. */
  const tryOutput = (index: number) => run(() => store.tryOutput(index))
  return { items, list, groups, open, rows, grids, mark, tryOutput, busy, problem }
}
