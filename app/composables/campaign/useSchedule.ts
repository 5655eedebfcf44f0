import {
  isHypometError,
  scheduleSetup,
  type HypometError,
  type MethodOutput,
  type Row,
  type ScheduleFrame,
} from '@hypomet/core'

export interface PlacedTask {
  name: string
  startDate: string
  finishDate: string
  critical: boolean
}

const DRAWS = 20_000

/** A campaign's tasks placed in its calendar, in a worker, anew whenever they change. */
export function useSchedule(tasks: () => readonly Row[], frame: () => ScheduleFrame) {
  const calculator = useCalculator()
  const output = shallowRef<MethodOutput | null>(null)
  const problem = shallowRef<HypometError | null>(null)
  let asked = 0
  async function place(): Promise<void> {
    const mine = ++asked
    if (tasks().length === 0) {
      output.value = null
      return
    }
    try {
      const placed = await calculator.calculate(scheduleSetup(tasks(), frame(), DRAWS))
      if (mine !== asked) return
      output.value = placed
      problem.value = null
    } catch (e) {
      if (!isHypometError(e)) throw e
      if (mine === asked) problem.value = e
    }
  }
  onMounted(() => watch([tasks, frame], place, { immediate: true }))
  const placed = computed<PlacedTask[]>(() => {
    const c = output.value?.tables['tasks']?.columns as Record<string, (string | number)[]> | undefined
    return c
      ? c['id']!.map((name, i) => ({
          name: String(name),
          startDate: String(c['startDate']![i]),
          finishDate: String(c['finishDate']![i]),
          critical: c['critical']![i] === 1,
        }))
      : []
  })
  const months = computed(() => {
    const c = output.value?.tables['costByMonth']?.columns as Record<string, (string | number)[]> | undefined
    return c ? c['month']!.map((month, i) => ({ month: String(month), cost: Number(c['cost']![i]) })) : []
  })
  return { output, problem, placed, months }
}
