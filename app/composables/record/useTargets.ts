import {
  answeredError,
  farthestTime,
  HypometError,
  shapeAt,
  targetField,
  targetsOf,
  type TargetField,
} from '@hypomet/core'

interface Head {
  rows: number
  roles: string[]
  targets: string[]
  gauges: { role: string; name: string; unit: string }[]
}

export const COMPONENTS = { w: 'Out of plane', u: 'Along', v: 'Across', size: 'All together' } as const
export type Displacement = keyof typeof COMPONENTS

/** Image targets of a record, which of them hold the article, and where the others go once that motion is taken off. */
export async function useTargets(datasetId: number) {
  const { head, columns } = await fetched(datasetId)
  const t = columns['t']!
  const units = Object.fromEntries(head.roles.filter(r => r !== 't' && !r.startsWith('gauge:')).map(r => [r, 'm']))
  const targets = markRaw(targetsOf(columns, units))
  const fixture = ref<string[]>(
    targets.map(p => p.name).filter(n => /^(bracket|clamp|fix|frame|jig|ref|base)/i.test(n)),
  )
  const rest = ref(Math.max(1, Math.round(0.02 * t.length)))
  const component = ref<Displacement>('w')
  const problem = shallowRef<HypometError | null>(null)
  const field = shallowRef<TargetField | null>(null)
  watch(
    [fixture, rest],
    () => {
      try {
        field.value = targetField(targets, [0, rest.value], fixture.value)
        problem.value = null
      } catch (e) {
        if (!(e instanceof HypometError)) throw e
        problem.value = e
      }
    },
    { immediate: true },
  )
  const at = ref(field.value ? farthestTime(field.value) : 0)
  const valueOf = (k: number, i: number): number => {
    const f = field.value!
    return component.value === 'size' ? Math.hypot(f.u[k]![i]!, f.v[k]![i]!, f.w[k]![i]!) : f[component.value][k]![i]!
  }
  const shape = computed(() => (field.value ? shapeAt(field.value, at.value) : null))
  const gauges = head.gauges.map(g => ({ ...g, values: columns[`gauge:${g.role}`]! }))
  return { t, targets, fixture, rest, component, field, problem, at, valueOf, shape, gauges }
}

async function fetched(datasetId: number): Promise<{ head: Head; columns: Record<string, Float64Array> }> {
  const response = await fetch(`/api/datasets/${datasetId}/targets`)
  if (!response.ok) {
    throw answeredError((await response.json()) as object, 'The targets were not read.')
  }
  const packed = await response.arrayBuffer()
  const { head, columns } = unpackRecord<Head>(packed)
  return { head, columns }
}
