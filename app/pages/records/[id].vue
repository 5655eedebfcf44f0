<script setup lang="ts">
import { ChevronRight, Download, HeartPulse, Maximize2, Sigma } from '@lucide/vue'
import { formatNumber, kindOfSi, preferredUnit, inUnit, type Figure, type Kind } from '@hypomet/core'
import { niceTicks, tickText } from '~/composables/niceTicks'
import { stripLook } from '~/composables/stripLooks'
import type { DerivedStrip, RecordChannel, RecordPage, RecordStrip, Selected } from '~/types/api'

const id = Number(useRoute().params['id'])
const api = useApi()
const { data: page, refresh } = await useAsyncData(`record-${id}`, () => api.get<RecordPage>(`/api/datasets/${id}`))
if (!page.value) throw createError({ statusCode: 404, statusMessage: 'There is no such record.', fatal: true })
const units = useUnits(() => page.value!.system)
useTrail().value = [{ name: page.value.campaign, to: `/campaigns/${page.value.slug}` }, { name: `${page.value.articleName} ${page.value.revision}`, to: `/tests/${page.value.testId}/reduce` }, { name: page.value.dataset.name }]
useHead({ title: `${page.value.dataset.name} · Hypomet` })
const { busy, problem, run } = useAction()

const channels = computed(() => page.value!.channels)
const chosen = ref(channels.value.filter(c => c.used).slice(0, 4).map(c => c.id))
if (chosen.value.length === 0) chosen.value = channels.value.slice(0, 3).map(c => c.id)
const MOST_STRIPS = 16
function toggle(channel: number): void {
  chosen.value = chosen.value.includes(channel) ? chosen.value.filter(c => c !== channel) : [...chosen.value, channel].slice(-MOST_STRIPS)
}
const overlaid = ref(false)

const view = ref({ from: page.value.from, to: page.value.to })
const strip = shallowRef<RecordStrip | null>(null)
const plot = useTemplateRef<HTMLDivElement>('plot')
const { width } = useElementSize(plot)
const LEFT = 64
let asked = 0
const fetchStrip = () => run(async () => {
  if (chosen.value.length === 0) return void (strip.value = null)
  const mine = ++asked
  const { from, to } = view.value
  const got = await api.get<RecordStrip>(`/api/datasets/${id}/strip?channels=${chosen.value.join(',')}&width=${Math.max(200, Math.round(width.value - LEFT))}&from=${from}&to=${to}`)
  if (mine === asked) strip.value = got
})
const fetchSoon = useDebounceFn(fetchStrip, 40)
onMounted(() => watch([view, chosen, width], () => void fetchSoon(), { immediate: true, deep: true }))

const kindOf = (c: RecordChannel): Kind | null => (c.isStrain ? 'strain' : c.unit ? kindOfSi(c.unit) : null)
const unitOf = (c: RecordChannel) => (kindOf(c) ? preferredUnit(kindOf(c)!, { prefer: units.prefer.value }).replace(/^1$/, '') : c.unit)
const inShown = (c: RecordChannel, v: number | null) => (v === null ? null : kindOf(c) ? inUnit(v, kindOf(c)!, preferredUnit(kindOf(c)!, { prefer: units.prefer.value })) : v)
const strips = computed(() => {
  const list = (strip.value?.channels ?? []).flatMap(s => {
    const c = channels.value.find(x => x.id === s.id)
    return c ? [{ c, name: c.name || c.role, lo: s.min.map(v => inShown(c, v)), hi: s.max.map(v => inShown(c, v)) }] : []
  })
  if (!overlaid.value) return list.map(s => ({ key: String(s.c.id), unit: unitOf(s.c), series: [s] }))
  const kinds = [...new Set(list.map(s => unitOf(s.c)))]
  return kinds.map(unit => ({ key: `unit-${unit}`, unit, series: list.filter(s => unitOf(s.c) === unit) }))
})
const derived = shallowRef<DerivedStrip | null>(null)
const deriving = ref(false)
async function kept(channel: number): Promise<void> {
  await refresh()
  toggle(channel)
}
const height = computed(() => Math.max(64, Math.min(220, Math.floor((selection.value ? 320 : 460) / Math.max(1, strips.value.length + (derived.value ? 1 : 0))))))
const ticks = computed(() => niceTicks(view.value.from, view.value.to, Math.max(3, width.value / 120)))
const xOf = (t: number) => LEFT + ((t - view.value.from) / (view.value.to - view.value.from)) * (width.value - LEFT)
const tOf = (x: number) => view.value.from + (Math.max(0, x - LEFT) / (width.value - LEFT)) * (view.value.to - view.value.from)

function show(from: number, to: number): void {
  const { from: first, to: last } = page.value!
  const span = Math.min(last - first, Math.max(to - from, (last - first) * 1e-7))
  const start = Math.max(first, Math.min(from, last - span))
  view.value = { from: start, to: start + span }
}
function zoom(factor: number, around = (view.value.from + view.value.to) / 2): void {
  const { from, to } = view.value
  show(around - (around - from) * factor, around + (to - around) * factor)
}
const pan = (share: number) => show(view.value.from + share * (view.value.to - view.value.from), view.value.to + share * (view.value.to - view.value.from))
const whole = () => show(page.value!.from, page.value!.to)

const cursor = ref<number | null>(null)
const selection = ref<[number, number] | null>(null)
let held: { x: number; from: number; to: number; selecting: boolean } | null = null
function press(e: PointerEvent): void {
  ;(e.currentTarget as HTMLElement).setPointerCapture(e.pointerId)
  held = { x: e.offsetX, ...view.value, selecting: !e.shiftKey }
  if (held.selecting) selection.value = null
}
function move(e: PointerEvent): void {
  const x = e.clientX - plot.value!.getBoundingClientRect().left
  cursor.value = x >= LEFT ? tOf(x) : null
  if (!held) return
  if (held.selecting) {
    if (Math.abs(x - held.x) > 3) selection.value = [tOf(Math.min(x, held.x)), tOf(Math.max(x, held.x))]
  } else {
    const shift = ((held.x - x) / (width.value - LEFT)) * (held.to - held.from)
    show(held.from + shift, held.to + shift)
  }
}
function release(): void {
  held = null
  if (selection.value) void lookAt(false)
}
function wheel(e: WheelEvent): void {
  const x = e.clientX - plot.value!.getBoundingClientRect().left
  if (e.shiftKey) pan(Math.sign(e.deltaY || e.deltaX) * 0.1)
  else zoom(e.deltaY > 0 ? 1.25 : 0.8, tOf(x))
}
onKeyStroke(['ArrowLeft', 'ArrowRight', '+', '-', 'Home', 'n'], e => {
  if (isTyping(e)) return
  e.preventDefault()
  const acts: Record<string, () => void> = { ArrowLeft: () => pan(-0.2), ArrowRight: () => pan(0.2), '+': () => zoom(0.6), '-': () => zoom(1.6), Home: whole, n: nextFlag }
  acts[e.key]!()
})

/** What stands at the cursor, per strip. */
const readings = computed(() => {
  const t = strip.value?.t
  if (cursor.value === null || !t?.length) return null
  let i = t.findIndex(v => v >= cursor.value!)
  if (i < 0) i = t.length - 1
  if (i > 0 && cursor.value - t[i - 1]! < t[i]! - cursor.value) i--
  return (series: { lo: (number | null)[]; hi: (number | null)[] }) => {
    const [lo, hi] = [series.lo[i] ?? null, series.hi[i] ?? null]
    return lo === hi ? formatNumber(lo, 5) : `${formatNumber(lo, 4)} … ${formatNumber(hi, 4)}`
  }
})

const selected = shallowRef<Selected[] | null>(null)
const lookAt = (spectrum: boolean) => run(async () => {
  if (!selection.value) return
  selected.value = await api.post<Selected[]>(`/api/datasets/${id}/selection`, { channels: chosen.value, from: selection.value[0], to: selection.value[1], spectrum })
})
watch(selection, s => {
  if (!s) selected.value = null
})
const statistics = computed(() => (selected.value ?? []).flatMap(s => {
  const c = channels.value.find(x => x.id === s.channel)
  if (!c) return []
  const text = (v: number | null) => (v === null ? '–' : `${formatNumber(inShown(c, v)!, 5)}\u202f${unitOf(c)}`)
  // A difference has no zero point: °C of a spread are K.
  const spread = (v: number | null) => (v === null ? '–' : `${formatNumber(inShown(c, v)! - inShown(c, 0)!, 3)}\u202f${unitOf(c)}`)
  return [{ ...s, c, name: c.name || c.role, meanText: text(s.mean), sdText: spread(s.sd), minText: text(s.min), maxText: text(s.max) }]
}))
const spectra = computed(() => statistics.value.flatMap(s => (s.spectrum && 'density' in s.spectrum ? [{ name: s.name, unit: s.c.unit, figure: densityFigure(s.name, s.spectrum) }] : [])))
const refusals = computed(() => statistics.value.flatMap(s => (s.spectrum && 'refused' in s.spectrum ? [`${s.name}: ${s.spectrum.refused}`] : [])))
const densityFigure = (name: string, s: { frequency: number[]; density: number[] }): Figure => ({ x: { label: 'Frequency', kind: 'frequency' }, y: { label: 'log₁₀ of density in SI', kind: 'ratio' }, series: [{ name, style: 'measured', x: s.frequency, y: s.density.map(d => (d > 0 ? Math.log10(d) : null)) }], lines: [] })

/** Flags with a place, in order; `n` goes from one to the next. */
const flags = computed(() => channels.value.flatMap(c => (c.health ?? []).flatMap(f => (f.at == null ? [] : [{ c, at: f.at, message: f.message }]))).toSorted((a, b) => a.at - b.at))
const flagAt = ref(-1)
const said = ref('')
function go(to: { c: RecordChannel; at: number; message: string }): void {
  if (!chosen.value.includes(to.c.id)) toggle(to.c.id)
  const span = Math.min(view.value.to - view.value.from, (page.value!.to - page.value!.from) / 20)
  show(to.at - span / 2, to.at + span / 2)
  cursor.value = to.at
  said.value = `${to.c.name || to.c.role}: ${to.message}`
}
function nextFlag(): void {
  if (flags.value.length === 0) return
  flagAt.value = (flagAt.value + 1) % flags.value.length
  go(flags.value[flagAt.value]!)
}
function showFlag(c: RecordChannel): void {
  const first = flags.value.find(f => f.c.id === c.id)
  if (first) go(first)
  else {
    said.value = `${c.name || c.role}: ${c.health!.map(f => f.message).join(' ')}`
    if (!chosen.value.includes(c.id)) toggle(c.id)
  }
}
const marks = computed(() => flags.value.filter(f => chosen.value.includes(f.c.id)).map(f => f.at))

const checking = ref('')
const checkAgain = () => run(async () => {
  const { jobId } = await api.post<{ jobId: number }>(`/api/datasets/${id}/health`, {})
  for (let status = 'running'; status === 'running'; ) {
    const job = await api.get<{ status: string; doing: string }>(`/api/jobs/${jobId}`)
    status = job.status
    checking.value = job.doing
    await new Promise(resolve => setTimeout(resolve, 150))
  }
  checking.value = ''
  await refresh()
})
const exportHref = computed(() => {
  const [from, to] = selection.value ?? [view.value.from, view.value.to]
  return `/api/datasets/${id}/export?channels=${chosen.value.join(',')}&from=${from}&to=${to}`
})
</script>

<template>
  <main class="grid h-[calc(100vh-2.75rem)] grid-cols-[18rem_1fr] gap-3 p-3">
    <ChannelList :channels="channels" :chosen="chosen" @toggle="toggle" @flag="showFlag" />
    <div class="min-w-0 space-y-3 overflow-y-auto">
      <DerivedPanel v-if="deriving" :dataset-id="id" :channels="channels" :view="view" :width="width - LEFT" @drawn="derived = $event" @kept="kept" />
      <section class="panel">
        <div class="mb-2 flex flex-wrap items-center justify-between gap-2">
          <div><h1 class="text-base">{{ page!.dataset.name }}</h1><p class="text-xs text-quiet">{{ page!.dataset.rows.toLocaleString('en') }} rows, {{ formatNumber(page!.to - page!.from, 4) }} s</p></div>
          <div class="no-print flex flex-wrap gap-1.5">
            <button type="button" class="button text-xs" :aria-pressed="overlaid" @click="overlaid = !overlaid">{{ overlaid ? 'Overlaid by unit' : 'Stacked' }}</button>
            <button type="button" class="button text-xs" :aria-pressed="deriving" @click="deriving = !deriving"><Sigma class="size-3.5" aria-hidden="true" />Derive</button>
            <button type="button" class="button text-xs" @click="whole"><Maximize2 class="size-3.5" aria-hidden="true" />Whole <span class="key">Home</span></button>
            <button type="button" class="button text-xs" :disabled="flags.length === 0" @click="nextFlag"><ChevronRight class="size-3.5" aria-hidden="true" />Next flag <span class="key">n</span></button>
            <button type="button" class="button text-xs" :disabled="busy" @click="checkAgain"><HeartPulse class="size-3.5" aria-hidden="true" />{{ checking || 'Look over again' }}</button>
            <a :href="exportHref" class="button text-xs"><Download class="size-3.5" aria-hidden="true" />{{ selection ? 'Selection' : 'View' }} as CSV</a>
          </div>
        </div>
        <ProblemNote :problem="problem" />
        <p v-if="said" class="mb-1 text-sm text-open" role="status">{{ said }}</p>
        <EmptyState v-if="chosen.length === 0" title="No channel chosen" text="Tick channels on the left; they are drawn here over one time axis." />
        <div ref="plot" class="cursor-crosshair select-none" tabindex="0" role="application" aria-label="Strips over time: drag to select, Shift and drag to move, wheel or + and − to zoom, arrows to move" @pointerdown="press" @pointermove="move" @pointerup="release" @pointerleave="cursor = held ? cursor : null" @wheel.prevent="wheel" @dblclick="whole">
          <div v-if="deriving && derived" class="relative mb-1">
            <p class="pointer-events-none absolute left-[4.6rem] top-0 z-10 rounded bg-panel/80 px-1 text-xs"><b class="font-semibold">being derived</b> <span class="text-quiet">{{ derived.unit === '1' ? '' : derived.unit }}</span></p>
            <StripCanvas :t="derived.t" :series="[{ name: 'derived', lo: derived.min, hi: derived.max }]" :from="view.from" :to="view.to" :unit="derived.unit" :height="height" :cursor="cursor" :selection="selection" :marks="[]" label="The channel being derived, over time" />
          </div>
          <div v-for="s in strips" :key="s.key" class="relative mb-1">
            <p class="pointer-events-none absolute left-[4.6rem] top-0 z-10 max-w-[80%] truncate rounded bg-panel/80 px-1 text-xs"><span v-for="(one, i) in s.series" :key="one.c.id"><template v-if="i > 0">&ensp;</template><svg v-if="s.series.length > 1" viewBox="0 0 26 6" class="mr-1 inline h-1.5 w-6" aria-hidden="true"><path d="M0 3h26" :stroke="`var(--${stripLook(i).colour})`" stroke-width="2" :stroke-dasharray="stripLook(i).dash.join(' ') || 'none'" /></svg><b class="font-semibold">{{ one.name }}</b><template v-if="readings">&ensp;{{ readings(one) }}</template></span> <span class="text-quiet">{{ s.unit }}</span></p>
            <StripCanvas :t="strip!.t" :series="s.series" :from="view.from" :to="view.to" :unit="s.unit" :height="height" :cursor="cursor" :selection="selection" :marks="marks" :label="s.series.map(x => x.name).join(', ') + ' over time'" />
          </div>
          <svg v-if="width > 0" class="block w-full" height="34" aria-hidden="true">
            <g v-for="v in ticks.values" :key="v"><line :x1="xOf(v)" :x2="xOf(v)" y1="0" y2="5" stroke="var(--quiet)" /><text :x="xOf(v)" y="16" text-anchor="middle" font-size="11" fill="var(--quiet)">{{ tickText(v, ticks.step) }}</text></g>
            <text :x="(width + LEFT) / 2" y="31" text-anchor="middle" font-size="11" font-weight="600" fill="var(--ink)">Time [s]<template v-if="cursor !== null">, cursor at {{ tickText(cursor, ticks.step / 100) }}</template></text>
          </svg>
        </div>
      </section>
      <section v-if="selection && statistics.length > 0" class="panel">
        <div class="mb-1 flex items-center justify-between gap-2"><h2>Selection: {{ tickText(selection[0], ticks.step / 100) }} to {{ tickText(selection[1], ticks.step / 100) }} s</h2><div class="flex gap-1.5"><button type="button" class="button text-xs" :disabled="busy" @click="lookAt(true)">Spectrum</button><button type="button" class="button text-xs" @click="show(selection[0], selection[1])">Zoom to it</button><button type="button" class="button text-xs" @click="selection = null">Let go</button></div></div>
        <table class="data">
          <thead><tr><th>Channel</th><th class="number">n</th><th class="number">Mean</th><th class="number">Standard deviation</th><th class="number">Least</th><th class="number">Most</th></tr></thead>
          <tbody><tr v-for="s in statistics" :key="s.channel"><td>{{ s.name }}</td><td class="number">{{ s.n }}</td><td class="number">{{ s.meanText }}</td><td class="number">{{ s.sdText }}</td><td class="number">{{ s.minText }}</td><td class="number">{{ s.maxText }}</td></tr></tbody>
        </table>
        <p v-for="r in refusals" :key="r" class="mt-1 text-sm text-open">{{ r }}</p>
        <FigureChart v-for="s in spectra" :key="s.name" class="mt-2" :figure="s.figure" :prefer="units.prefer.value" :name="`spectrum-${s.name}`" height="200px" />
      </section>
    </div>
  </main>
</template>
