<script setup lang="ts">
import { Pause, Play } from '@lucide/vue'
import {
  findParting,
  formatQuantity,
  stretchBetween,
  quantityToSi,
  type Figure,
  type QuantityInput,
  type Series,
} from '@hypomet/core'
import { COMPONENTS, type Displacement } from '~/composables/record/useTargets'

/**
 * Image targets as a field: what holds the article taken off, over the article and over time, beside a gauge at the
 * same place.
 */
const { id, system } = defineProps<{ id: number; system: 'metric' | 'imperial' }>()
const { t, targets, fixture, rest, component, field, problem, at, valueOf, shape, gauges } = await useTargets(id)
const { prefer } = useUnits(() => system)
const show = (si: number | null | undefined, kind: 'length' | 'time' | 'angle' | 'strain' = 'length') =>
  formatQuantity(si ?? null, kind, { prefer: prefer.value, digits: 3 })

const playing = ref(false)
const pause = useIntervalFn(
  () => {
    at.value = at.value + 1 < t.length ? at.value + 1 : 0
  },
  Math.max(30, 8000 / t.length),
  { immediate: false },
)
watch(playing, on => (on ? pause.resume() : pause.pause()))

/** Shades mean the same at every time. */
const scale = computed((): [number, number] => {
  let [low, high] = [Infinity, -Infinity]
  for (let k = 0; k < (field.value?.names.length ?? 0); k++)
    for (let i = 0; i < t.length; i++) {
      const v = valueOf(k, i)
      if (v < low) low = v
      if (v > high) high = v
    }
  return low < high ? [low, high] : [0, 1]
})
const map = computed<Figure | null>(() => {
  const f = field.value
  if (!f) return null
  const rows = f.names.map((_, k) => k).filter(k => Number.isFinite(valueOf(k, at.value)))
  const label = `${COMPONENTS[component.value]}, at ${show(t[at.value], 'time')}`
  return {
    x: { label: 'x', kind: 'length' },
    y: { label: 'y', kind: 'length' },
    series: [],
    lines: [],
    field: {
      label,
      kind: 'length',
      x: rows.map(k => f.x[k]!),
      y: rows.map(k => f.y[k]!),
      value: rows.map(k => valueOf(k, at.value)),
    },
  }
})
/** Rows of targets along the article, by how far across they are. */
const lines = computed(() => {
  const f = field.value
  if (!f) return []
  const groups = new Map<string, number[]>()
  f.y.forEach((y, k) => {
    const key = (Math.round(y / 0.02) * 0.02).toFixed(2)
    groups.set(key, [...(groups.get(key) ?? []), k])
  })
  return [...groups]
    .filter(([, ks]) => ks.length >= 3)
    .map(([y, ks]) => ({ y: Number(y), ks: ks.sort((a, b) => f.x[a]! - f.x[b]!) }))
    .sort((a, b) => b.y - a.y)
})
const deflected = computed<Figure>(() => ({
  x: { label: 'Place along the article', kind: 'length' },
  y: { label: COMPONENTS[component.value], kind: 'length' },
  lines: [{ axis: 'y', value: 0, label: '' }],
  series: lines.value.map((l, of): Series => ({
    name: `At ${show(l.y)} across`,
    style: 'measured',
    of,
    x: l.ks.map(k => field.value!.x[k]!),
    y: l.ks.map(k => valueOf(k, at.value)),
  })),
}))

const gauge = ref(gauges.find(g => g.unit === 'm')?.role ?? gauges.find(g => g.unit === '1')?.role ?? '')
const asStrain = computed(() => gauges.find(g => g.role === gauge.value)?.unit === '1')
/** A strain stretches between two targets. */
const other = ref('')
const beside = ref('')
watch(
  field,
  f => {
    if (f && !f.names.includes(beside.value))
      beside.value =
        f.names[
          f.names.reduce((m, _, k) => (Math.abs(valueOf(k, at.value)) > Math.abs(valueOf(m, at.value)) ? k : m), 0)
        ] ?? ''
  },
  { immediate: true },
)
/** The gauge turned the way the target reads, from the same rest. */
const pair = computed(() => {
  const g = gauges.find(o => o.role === gauge.value)
  const k = field.value?.names.indexOf(beside.value) ?? -1
  if (!g || k < 0) return null
  const second = field.value!.names.indexOf(other.value)
  if (asStrain.value && (second < 0 || second === k)) return null
  const own = asStrain.value ? stretchBetween(field.value!, k, second) : Float64Array.from(t, (_, i) => valueOf(k, i))
  const zero = g.values.subarray(0, rest.value).reduce((a, b) => a + b, 0) / rest.value
  let sum = 0
  for (let i = 0; i < t.length; i++)
    if (Number.isFinite(own[i]!) && Number.isFinite(g.values[i]!)) sum += own[i]! * (g.values[i]! - zero)
  const read = g.values.map(v => Math.sign(sum || 1) * (v - zero))
  return { own, read, name: g.name }
})
const within = ref<Record<'length' | 'strain', QuantityInput>>({
  length: { value: 0.5, unit: 'mm' },
  strain: { value: 100, unit: 'µε' },
})
const gaugeKind = computed(() => (asStrain.value ? ('strain' as const) : ('length' as const)))
const agree = computed(() => {
  const q = within.value[gaugeKind.value]
  return typeof q === 'number' ? q : quantityToSi(q, gaugeKind.value)
})
const parted = computed(() =>
  pair.value ? findParting(t, pair.value.own, pair.value.read, { a: agree.value, b: 0 }) : null,
)
const together = computed<Figure | null>(() => {
  if (!pair.value) return null
  const { own, read, name } = pair.value
  const curve = (label: string, y: Float64Array, of: number): Series => ({
    name: label,
    style: 'measured',
    of,
    x: [...t],
    y: [...y].map(v => (Number.isFinite(v) ? v : null)),
  })
  return {
    x: { label: 'Time', kind: 'time' },
    y: { label: asStrain.value ? 'Strain' : COMPONENTS[component.value], kind: gaugeKind.value },
    series: [
      curve(asStrain.value ? `${beside.value} to ${other.value}` : `Target ${beside.value}`, own, 0),
      curve(name, read, 1),
    ],
    lines: [
      { axis: 'x', value: t[at.value]!, label: '' },
      ...(parted.value ? [{ axis: 'x' as const, value: parted.value.time, label: 'part' }] : []),
    ],
  }
})
const motion = computed(() => field.value?.fixture[at.value] ?? null)
/** How far what holds the article moved, at the middle of its targets. */
const shifted = computed(() => (motion.value ? Math.hypot(...motion.value.shift) : null))
const partedWords = computed(() => {
  const within = show(agree.value, gaugeKind.value)
  return parted.value
    ? `They disagree by more than ${within} at ${show(parted.value.time, 'time')}, and stay apart.`
    : `They agree within ${within} all through.`
})
</script>

<template>
  <div class="grid grid-cols-[17rem_1fr] items-start gap-3">
    <aside class="space-y-3">
      <section class="panel">
        <h1 class="mb-1 text-base">Targets</h1>
        <p class="mb-2 text-xs text-quiet">
          Tick those that sit on the fixture: their motion is taken off the others, by least squares at every time.
        </p>
        <ul class="max-h-72 columns-2 overflow-y-auto text-sm" tabindex="0" aria-label="Targets that hold the article">
          <li v-for="p in targets" :key="p.name">
            <label class="flex items-center gap-1"
              ><input v-model="fixture" type="checkbox" :value="p.name" />{{ p.name }}</label
            >
          </li>
        </ul>
        <ProblemNote class="mt-2" :problem="problem" />
        <label class="mt-2 block"
          ><span class="label">At rest, first samples</span
          ><input v-model.number="rest" type="number" class="field" min="1" :max="t.length"
        /></label>
      </section>
      <section v-if="motion && shifted !== null" class="panel text-sm">
        <h2 class="mb-1">What holds it, now</h2>
        <dl class="grid grid-cols-[1fr_auto] gap-x-2">
          <dt class="text-quiet">Turned</dt>
          <dd class="number">{{ show(motion.angle, 'angle') }}</dd>
          <dt class="text-quiet">Shifted at the origin</dt>
          <dd class="number">{{ show(shifted) }}</dd>
          <dt class="text-quiet">Left over, rms</dt>
          <dd class="number">{{ show(motion.residual) }}</dd>
        </dl>
      </section>
      <section v-if="shape" class="panel text-sm">
        <h2 class="mb-1">The article, now</h2>
        <dl class="grid grid-cols-[1fr_auto] gap-x-2">
          <dt class="text-quiet">Out of plane, middle</dt>
          <dd class="number">{{ show(shape.middle) }}</dd>
          <dt class="text-quiet">Slope along</dt>
          <dd class="number">{{ show(shape.slopeX, 'angle') }}</dd>
          <dt class="text-quiet">Twist over its length</dt>
          <dd class="number" data-twist>{{ show(shape.twist, 'angle') }}</dd>
        </dl>
      </section>
    </aside>
    <div class="min-w-0 space-y-3">
      <section class="panel">
        <div class="mb-1 flex flex-wrap items-center gap-2">
          <h2>Over the article</h2>
          <select v-model="component" class="field w-36" aria-label="Displacement">
            <option v-for="(label, c) in COMPONENTS" :key="c" :value="c as Displacement">{{ label }}</option>
          </select>
          <button type="button" class="button px-2 text-sm" :aria-pressed="playing" @click="playing = !playing">
            <component :is="playing ? Pause : Play" class="size-4" aria-hidden="true" />{{
              playing ? 'Stand still' : 'Play'
            }}
          </button>
          <label class="flex flex-1 items-center gap-2 text-sm"
            ><span class="number w-20">{{ show(t[at], 'time') }}</span
            ><input
              v-model.number="at"
              type="range"
              min="0"
              :max="t.length - 1"
              class="flex-1"
              aria-label="Time"
              :aria-valuetext="show(t[at], 'time')"
          /></label>
        </div>
        <FieldMap v-if="map" :figure="map" :prefer="prefer" :scale="scale" compact />
      </section>
      <div class="grid grid-cols-2 gap-3">
        <section class="panel min-w-0">
          <h2 class="mb-1">Deflected shape</h2>
          <FigureChart
            v-if="lines.length > 0"
            :figure="deflected"
            :prefer="prefer"
            :name="`targets-${id}`"
            height="230px"
          />
          <p v-else class="text-sm text-quiet">No row of three targets lies along the article.</p>
        </section>
        <section class="panel min-w-0">
          <div class="mb-1 flex flex-wrap items-center gap-2 text-sm">
            <h2>Beside a gauge</h2>
            <select v-model="beside" class="field w-20" aria-label="Target">
              <option v-for="n in field?.names ?? []" :key="n">{{ n }}</option></select
            ><select v-if="asStrain" v-model="other" class="field w-20" aria-label="Second target">
              <option v-for="n in field?.names ?? []" :key="n">{{ n }}</option></select
            ><select v-model="gauge" class="field w-40" aria-label="Gauge">
              <option v-for="g in gauges.filter(o => o.unit === 'm' || o.unit === '1')" :key="g.role" :value="g.role">
                {{ g.name }}
              </option></select
            ><QuantityField
              class="w-28"
              hide-label
              label="They agree within"
              :kind="gaugeKind"
              :prefer="prefer"
              :model-value="within[gaugeKind]"
              @update:model-value="within = { ...within, [gaugeKind]: $event ?? within[gaugeKind] }"
            />
          </div>
          <FigureChart
            v-if="together"
            :figure="together"
            :prefer="prefer"
            :name="`target-gauge-${id}`"
            height="200px"
          />
          <p v-if="pair" class="text-xs" data-parting :class="parted ? 'text-open' : 'text-quiet'">
            {{ partedWords }}
          </p>
          <p v-else class="text-sm text-quiet">
            {{
              asStrain
                ? 'Choose two targets that the strain gauge lies between.'
                : 'No gauge was read beside the targets.'
            }}
          </p>
        </section>
      </div>
    </div>
  </div>
</template>
