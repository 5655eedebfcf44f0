<script setup lang="ts">
import { Pause, Play } from '@lucide/vue'
import {
  coverageFactor,
  findParting,
  formatNumber,
  formatQuantity,
  stretchBetween,
  quantityToSi,
  type Figure,
  type QuantityInput,
  type Series,
} from '@hypomet/core'
import type { Displacement } from '~/composables/record/useTargets'

/**
 * Image targets as a field: what holds the article taken off, over the article and over time, beside a gauge at the
 * same place.
 */
const { id, system } = defineProps<{ id: number; system: 'metric' | 'imperial' }>()
const seen = await useTargets(id)
const { t, targets, look, field, shell, problem, at, names, valueOf, shape, gauges } = seen
const { prefer } = useUnits(() => system)
const show = (si: number | null | undefined, kind: 'length' | 'time' | 'angle' | 'strain' = 'length') =>
  formatQuantity(si ?? null, kind, { prefer: prefer.value, digits: 3 })

/** Those that hold the article first: of many targets they are few. */
const listed = [...targets].sort(
  (a, b) => Number(look.value.fixture.includes(b.name)) - Number(look.value.fixture.includes(a.name)),
)
const label = computed(() => names.value[look.value.component])
/** Rest as typed: a whole number of samples of this record. */
const rest = useTyped(() => String(look.value.rest))
const isRestRead = computed(
  () => /^\d+$/.test(rest.value.trim()) && Number(rest.value) >= 1 && Number(rest.value) <= t.length,
)
const sayRest = () => isRestRead.value && (look.value.rest = Number(rest.value))

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
  const title = `${label.value}, at ${show(t[at.value], 'time')}`
  return {
    x: { label: shell.value ? 'Around' : 'Along', kind: 'length' },
    y: { label: shell.value ? 'Along the axis' : 'Across', kind: 'length' },
    series: [],
    lines: [],
    field: {
      label: title,
      kind: 'length',
      x: rows.map(k => seen.placeOf(k)[0]),
      y: rows.map(k => seen.placeOf(k)[1]),
      value: rows.map(k => valueOf(k, at.value)),
    },
  }
})
/** Rows of targets along the article, by how far across they are; of a shell, rings by their height. */
const lines = computed(() => {
  const f = field.value
  if (!f) return []
  const places = f.names.map((_, k) => seen.placeOf(k))
  return rowsAcross(places.map(p => p[1]))
    .filter(ks => ks.length >= 3)
    .map(ks => ({
      across: rounded(
        ks.reduce((sum, k) => sum + places[k]![1], 0) / ks.length,
        places.map(p => p[1]),
      ),
      at: ks.map(k => ({ k, along: places[k]![0] })).sort((a, b) => a.along - b.along),
    }))
})
/** To a thousandth of the width, so that the middle is nothing. */
function rounded(value: number, all: readonly number[]): number {
  const part = 1e-3 * (Math.max(...all) - Math.min(...all)) || 1e-6
  return part * Math.round(value / part)
}
/** Places as rows: a gap wider than a part of the whole width begins another. */
function rowsAcross(across: readonly number[]): number[][] {
  const order = across.map((_, k) => k).sort((a, b) => across[b]! - across[a]!)
  const width = Math.max(...across) - Math.min(...across)
  const rows: number[][] = []
  for (const k of order) {
    const last = rows.at(-1)?.at(-1)
    if (last === undefined || across[last]! - across[k]! > ROW_APART * width) rows.push([k])
    else rows.at(-1)!.push(k)
  }
  return rows
}
const ROW_APART = 0.06
const deflected = computed<Figure>(() => ({
  x: { label: shell.value ? 'Around' : 'Place along the article', kind: 'length' },
  y: { label: label.value, kind: 'length' },
  lines: [{ axis: 'y', value: 0, label: '' }],
  series: lines.value.map((l, of): Series => ({
    name: `At ${show(l.across)} ${shell.value ? 'along the axis' : 'across'}`,
    style: 'measured',
    of,
    x: l.at.map(p => p.along),
    y: l.at.map(p => valueOf(p.k, at.value)),
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
  const still = look.value.rest
  const zero = g.values.subarray(0, still).reduce((a, b) => a + b, 0) / still
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
    y: { label: asStrain.value ? 'Strain' : label.value, kind: gaugeKind.value },
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
/** The target farthest from those that hold the article: there the noise of their motion is largest. */
const worst = computed(() => {
  const f = field.value
  if (!f || f.names.length === 0) return null
  const found = f.names.map((name, k) => ({ name, ...(seen.uncertaintyOf(k) ?? { own: NaN, all: NaN }) }))
  if (found.some(u => Number.isNaN(u.all))) return null
  const most = found.reduce((m, u) => (u.all > m.all ? u : m))
  return { ...most, times: most.all / most.own }
})
const isMagnified = computed(() => (worst.value?.times ?? 0) > MAGNIFIED)
const MAGNIFIED = 3
/** Few pictures at rest tell little of the scatter: the factor says so. */
const factor = computed(() => coverageFactor(Math.max(1, look.value.rest - 1)))
/** The largest displacement now, with its U. */
const largest = computed(() => {
  const f = field.value
  if (!f) return null
  const known = f.names
    .map((name, k) => ({ name, k, value: valueOf(k, at.value) }))
    .filter(d => Number.isFinite(d.value))
  if (known.length === 0) return null
  const most = known.reduce((m, d) => (Math.abs(d.value) > Math.abs(m.value) ? d : m))
  const u = seen.uncertaintyOf(most.k)
  return { ...most, U: u && factor.value * u.all }
})
const toKeep = computed(() => (field.value?.names ?? []).map((name, k) => ({ name, expression: seen.expressionOf(k) })))

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
          <li v-for="p in listed" :key="p.name">
            <label class="flex items-center gap-1"
              ><input v-model="look.fixture" type="checkbox" :value="p.name" />{{ p.name }}</label
            >
          </li>
        </ul>
        <ProblemNote class="mt-2" :problem="problem" />
        <label class="mt-2 block"
          ><span class="label">At rest, first samples</span
          ><input v-model="rest" class="field" inputmode="numeric" :aria-invalid="!isRestRead" @input="sayRest" /><span
            v-if="!isRestRead"
            class="problem block"
            >A number from 1 to {{ t.length.toLocaleString('en') }}.</span
          ></label
        >
      </section>
      <TargetAxes v-model:axes="look.axes" v-model:shell="look.isShell" :names="targets.map(p => p.name)" />
    </aside>
    <div class="min-w-0 space-y-3">
      <section class="panel">
        <div class="mb-1 flex flex-wrap items-center gap-2">
          <h2>{{ shell ? 'Unrolled' : 'Over the article' }}</h2>
          <select v-model="look.component" class="field w-36" aria-label="Displacement">
            <option v-for="(words, c) in names" :key="c" :value="c as Displacement">{{ words }}</option>
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
      <div class="grid gap-3" :class="gauges.length > 0 ? 'grid-cols-2' : ''">
        <section class="panel min-w-0">
          <h2 class="mb-1">{{ shell ? 'Around, ring by ring' : 'Deflected shape' }}</h2>
          <FigureChart
            v-if="lines.length > 0"
            :figure="deflected"
            :prefer="prefer"
            :name="`targets-${id}`"
            height="230px"
          />
          <p v-else class="text-sm text-quiet">
            No three targets stand in a row{{ shell ? ' around' : ' along the article' }}.
          </p>
        </section>
        <section v-if="gauges.length > 0" class="panel min-w-0">
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
      <div class="grid grid-cols-3 items-start gap-3">
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
        <section v-if="field" class="panel space-y-1 text-sm" data-noise>
          <h2>How sure</h2>
          <template v-if="worst">
            <p v-if="largest">
              Largest now: {{ largest.name }}, <span class="number">{{ show(largest.value) }}</span><span
                v-if="largest.U !== null"
                class="number"
              >
                ± {{ show(largest.U) }}</span
              >
              <span class="text-xs text-quiet"> (k = {{ formatNumber(factor, 3) }})</span>
            </p>
            <p :class="isMagnified ? 'text-open' : 'text-quiet'" class="text-xs">
              <template v-if="look.fixture.length > 0">
                Taking the fixture’s motion off costs most at {{ worst.name }}: u = {{ show(worst.all) }},
                {{ formatNumber(worst.times, 2) }} times what its own place scatters ({{ show(worst.own) }}).
                <template v-if="isMagnified">
                  The fixture’s targets stand close together, and this one far from them: more of them, farther apart,
                  tell the turn better.
                </template>
              </template>
              <template v-else>Its own place scatters by u = {{ show(worst.own) }}.</template>
              By the scatter at rest; the camera’s calibration is not in it.
            </p>
          </template>
          <p v-else class="text-xs text-quiet">
            No uncertainty: the rest is a single picture, or a target was not seen in it. More samples at rest tell how
            far places scatter.
          </p>
        </section>
        <section v-if="shell" class="panel text-sm">
          <h2 class="mb-1">The shell</h2>
          <dl class="grid grid-cols-[1fr_auto] gap-x-2">
            <dt class="text-quiet">Radius</dt>
            <dd class="number" data-radius>{{ show(shell.radius) }}</dd>
            <dt class="text-quiet">Targets off it, rms</dt>
            <dd class="number">{{ show(shell.residual) }}</dd>
            <dt class="text-quiet">Its axis leans</dt>
            <dd class="number">{{ show(shell.lean, 'angle') }}</dd>
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
        <TargetChannels
          v-if="field"
          :dataset-id="id"
          :component="label"
          :targets="toKeep"
          :span="{ from: t[0]!, to: t.at(-1)! }"
        />
      </div>
    </div>
  </div>
</template>
