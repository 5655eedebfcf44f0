import {
  answeredError,
  cylinderOf,
  developed,
  farthestTime,
  FILE_AXES,
  HypometError,
  point,
  restOf,
  shapeAt,
  targetField,
  targetsOf,
  type AxesSaid,
  type Developed,
  type Point,
  type TargetField,
} from '@hypomet/core'

interface Head {
  rows: number
  roles: string[]
  targets: string[]
  /** What expressions call a target's columns. */
  symbols: Record<string, readonly [x: string, y: string, z: string | null]>
  gauges: { role: string; name: string; unit: string }[]
}

export const FLAT = { w: 'Out of plane', u: 'Along', v: 'Across', size: 'All together' } as const
export const SHELL = { w: 'Radial growth', u: 'Along the axis', v: 'Around', size: 'All together' } as const
export type Displacement = keyof typeof FLAT

/** How the targets of a record are looked at; kept by the browser, record by record. */
interface Look {
  fixture: string[]
  /** First samples at rest. */
  rest: number
  axes: AxesSaid
  isShell: boolean
  component: Displacement
}

/** A shell's targets on its developed surface, and how far off it they are. */
export interface Shell {
  radius: number
  residual: number
  /** rad by which its axis leans from the direction that was chosen. */
  lean: number
  axis: Point
  places: Developed[]
}

/** Image targets of a record, which of them hold the article, and where the others go once that motion is taken off. */
export async function useTargets(datasetId: number) {
  const { head, columns } = await fetched(datasetId)
  const t = columns['t']!
  const units = Object.fromEntries(head.roles.filter(r => r !== 't' && !r.startsWith('gauge:')).map(r => [r, 'm']))
  const targets = markRaw(targetsOf(columns, units))
  const look = useLocalStorage<Look>(
    `targets-${datasetId}`,
    {
      fixture: targets.map(p => p.name).filter(n => /^(bracket|clamp|fix|frame|jig|ref|base)/i.test(n)),
      rest: restOf(targets),
      axes: FILE_AXES,
      isShell: false,
      component: 'w',
    },
    { mergeDefaults: true },
  )
  const interval = t.length > 1 ? (t.at(-1)! - t[0]!) / (t.length - 1) : 1
  const known = new Set(targets.map(p => p.name))
  if (look.value.fixture.some(n => !known.has(n))) look.value.fixture = look.value.fixture.filter(n => known.has(n))
  const problem = shallowRef<HypometError | null>(null)
  const field = shallowRef<TargetField | null>(null)
  const shell = shallowRef<Shell | null>(null)
  watch(
    () => [look.value.fixture, look.value.rest, look.value.axes, look.value.isShell] as const,
    ([fixture, rest, axes, isShell]) => {
      try {
        const found = targetField(targets, [0, rest], fixture, axes)
        shell.value = isShell ? shellOf(found) : null
        field.value = found
        problem.value = null
      } catch (e) {
        if (!(e instanceof HypometError)) throw e
        problem.value = e
      }
    },
    { immediate: true, deep: true },
  )
  const at = ref(field.value ? farthestTime(field.value) : 0)
  const names = computed(() => (shell.value ? SHELL : FLAT))
  /** Where a target is drawn, m. */
  const placeOf = (k: number): readonly [number, number] => {
    const on = shell.value?.places[k]
    return on ? [on.around, on.along] : [field.value!.x[k]!, field.value!.y[k]!]
  }
  /** Direction of the component at a target, in the axes of the article; null for all together. */
  const directionOf = (k: number): Point | null => {
    const { component } = look.value
    if (component === 'size') return null
    if (shell.value) {
      const { radial, tangent } = shell.value.places[k]!
      return { w: radial, v: tangent, u: shell.value.axis }[component]
    }
    return point(i => ('uvw'[i] === component ? 1 : 0))
  }
  const valueOf = (k: number, i: number): number => {
    const { u, v, w } = field.value!
    const moved = [u[k]![i]!, v[k]![i]!, w[k]![i]!] as const
    const direction = directionOf(k)
    return direction ? moved.reduce((s, d, axis) => s + d * direction[axis]!, 0) : Math.hypot(...moved)
  }
  const uncertaintyOf = (k: number): { own: number; all: number } | null => {
    const scatter = field.value!.scatter[k]
    if (!scatter) return null
    // Of the size of a displacement no more than its largest part is said.
    const direction = directionOf(k)
    const along = (s: Point) => (direction ? Math.hypot(...s.map((v, i) => v * direction[i]!)) : Math.max(...s))
    return { own: along(scatter.own), all: along(scatter.all) }
  }
  /** How an expression has the component of a target as a channel; null where it has no columns of its own. */
  const expressionOf = (k: number): string | null => {
    const { names: seen, axes } = field.value!
    const direction = directionOf(k)
    const of = (name: string) => head.symbols[name]?.map(s => s ?? '0').join(', ')
    const parts = [seen[k]!, ...look.value.fixture].map(of)
    if (!direction || parts.includes(undefined)) return null
    const inFile = point(i => axes.reduce((s, axis, a) => s + axis[i]! * direction[a]!, 0))
    const numbers = inFile.map(v => String(Number(v.toFixed(9))))
    const rest = Number((t[Math.min(look.value.rest, t.length) - 1]! - t[0]! + REST_MARGIN * interval).toPrecision(9))
    return `moved(${[`${rest} s`, parts[0], ...numbers, ...parts.slice(1)].join(', ')})`
  }
  const shape = computed(() => (field.value && !shell.value ? shapeAt(field.value, at.value) : null))
  const gauges = head.gauges.map(g => ({ ...g, values: columns[`gauge:${g.role}`]! }))
  return {
    t,
    targets,
    look,
    field,
    shell,
    problem,
    at,
    names,
    placeOf,
    directionOf,
    valueOf,
    uncertaintyOf,
    expressionOf,
    shape,
    gauges,
  }
}

/** The rest goes on for less than a sample after its last. */
const REST_MARGIN = 0.5

/** The cylinder whose axis goes along the article, and its targets on the developed surface. */
function shellOf({ x, y, z }: TargetField): Shell {
  const places = x.map((_, k): Point => [x[k]!, y[k]!, z[k]!])
  const cylinder = cylinderOf(places, [1, 0, 0])
  return {
    radius: cylinder.radius,
    residual: cylinder.residual,
    lean: Math.acos(Math.min(1, Math.abs(cylinder.axis[0]))),
    axis: cylinder.axis,
    places: developed(places, cylinder),
  }
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
