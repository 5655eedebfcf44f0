<script setup lang="ts">
import type { EChartsType } from 'echarts/core'
import { Download, RotateCcw, Table2 } from '@lucide/vue'
import { formatNumber, fromUnit, inUnit, type Figure, type UnitPreference } from '@hypomet/core'
import { axisUnits, chartOption, figureCsv, GRID, lookOf } from '~/composables/charts/chartOption'

/** A figure of the core: cursor values for every series, drag to zoom, reset, the same data as a table, PNG and CSV. */
const props = withDefaults(
  defineProps<{
    figure: Figure
    prefer: UnitPreference
    name: string
    height?: string
    live?: boolean
    open?: readonly string[]
  }>(),
  { height: '320px' },
)

const emit = defineEmits<{ move: [path: string, x: number] }>()

const el = useTemplateRef<HTMLDivElement>('el')
const asTable = ref(false)
let chart: EChartsType | undefined
const { isDark } = useTheme()

onMounted(async () => {
  const { createChart } = await import('~/composables/charts/createChart')
  // Beside a run numbers come first.
  if (props.live) await new Promise(resolve => setTimeout(resolve, 150))
  if (!el.value) return
  chart = createChart(el.value)
  chart.on('rendered', placeHandles)
  draw()
})
useResizeObserver(el, () => chart?.resize())
onBeforeUnmount(() => chart?.dispose())
/** While a handle is dragged the handle itself and the numbers go first; the curves follow a few times a second. */
const isDragged = ref(false)
const follow = useThrottleFn(() => draw(), 250, true)
watch([() => props.figure, () => props.prefer, isDark], () => nextTick(isDragged.value ? follow : draw))

function draw(): void {
  if (!chart || !el.value) return
  chart.setOption(chartOption(props.figure, props.prefer, getComputedStyle(el.value)), {
    replaceMerge: ['series'],
    lazyUpdate: props.live ?? false,
  })
  if (!props.figure.polar)
    chart.dispatchAction({ type: 'takeGlobalCursor', key: 'dataZoomSelect', dataZoomSelectActive: true })
}

const reset = () => chart?.dispatchAction({ type: 'dataZoom', start: 0, end: 100 })

function save(href: string, extension: string): void {
  const a = document.createElement('a')
  a.href = href
  a.download = `${props.name}.${extension}`
  a.click()
}
const savePng = () =>
  chart &&
  save(
    chart.getDataURL({ pixelRatio: 2, backgroundColor: getComputedStyle(el.value!).getPropertyValue('--panel') }),
    'png',
  )
const saveCsv = () => saveFile(`${props.name}.csv`, figureCsv(props.figure, props.prefer))

const units = computed(() => {
  const [x, y] = axisUnits(props.figure, props.prefer)
  return { x, y }
})
/** Where the axes lie, so that handles stand over them. */
const scale = shallowRef<{ from: number; perPixel: number; left: number; right: number } | null>(null)
const isMovable = computed(() => (props.figure.handles?.length ?? 0) > 0)
function placeHandles(): void {
  if (!chart || !el.value || !isMovable.value) return
  const [left, right] = [GRID.left, el.value.clientWidth - GRID.right]
  const [a, b] = [left, right].map(p => chart!.convertFromPixel({ xAxisIndex: 0 }, p) as unknown as number) as [
    number,
    number,
  ]
  const now = scale.value
  const perPixel = (b - a) / (right - left)
  if (
    Number.isFinite(perPixel) &&
    perPixel > 0 &&
    (now?.from !== a || now.perPixel !== perPixel || now.right !== right)
  )
    scale.value = { from: a, perPixel, left, right }
}
function toPixel(x: number): number | null {
  const s = scale.value
  if (!s) return null
  const pixel = s.left + (inUnit(x, props.figure.x.kind, units.value.x) - s.from) / s.perPixel
  return pixel < s.left - 1 || pixel > s.right + 1 ? null : pixel
}
const fromPixel = (pixel: number): number | null =>
  scale.value
    ? fromUnit(scale.value.from + (pixel - scale.value.left) * scale.value.perPixel, props.figure.x.kind, units.value.x)
    : null
const span = computed((): [number, number] => {
  const xs = props.figure.series.flatMap(s => s.x.filter(v => v !== null))
  return [Math.min(...xs), Math.max(...xs)]
})
const colour = (s: Figure['series'][number]) =>
  s.style === 'predicted'
    ? 'var(--predicted)'
    : (s.style === 'fit' || s.style === 'points') && s.of === undefined
      ? 'var(--ink)'
      : `var(--${lookOf(s.of)})`
const summary = computed(
  () =>
    `${props.figure.y.label}${units.value.y === '1' ? '' : ` in ${units.value.y}`} over ` +
    `${props.figure.x.label.toLowerCase()}${units.value.x === '1' ? '' : ` in ${units.value.x}`}: ` +
    `${props.figure.series.map(s => s.name).join(', ')}`,
)
const tableRows = computed(() =>
  props.figure.series.flatMap(s => {
    const stride = Math.max(1, Math.ceil(s.x.length / 60))
    return s.x.flatMap((x, i) =>
      i % stride === 0 && x !== null && s.y[i] !== null
        ? [
            {
              series: s.name,
              x: inUnit(x, props.figure.x.kind, units.value.x),
              y: inUnit(s.y[i]!, props.figure.y.kind, units.value.y),
            },
          ]
        : [],
    )
  }),
)
</script>

<template>
  <figure class="m-0">
    <div class="no-print mb-1 flex flex-wrap items-center justify-between gap-2">
      <ul class="flex flex-wrap gap-x-3 text-xs text-quiet" aria-label="Series">
        <li v-for="s in figure.series.slice(0, 14)" :key="s.name" class="flex items-center gap-1">
          <svg viewBox="0 0 22 8" class="h-2 w-5" aria-hidden="true">
            <circle
              v-if="s.style === 'points'"
              cx="11"
              cy="4"
              r="3"
              fill="none"
              :stroke="colour(s)"
              stroke-width="1.6"
            />
            <path
              v-else
              d="M1 4h20"
              :stroke="colour(s)"
              stroke-width="2"
              :stroke-dasharray="s.style === 'predicted' ? '2 3' : s.style === 'fit' ? '7 3' : 'none'"
            /></svg
          >{{ s.name }}
        </li>
      </ul>
      <span v-if="figure.polar" class="text-xs text-quiet"
        >{{ figure.y.label }}{{ units.y === '1' ? '' : `, ${units.y}` }}, outward</span
      >
      <div v-if="!live" class="flex gap-1">
        <button
          v-if="!figure.polar"
          type="button"
          class="button px-1.5 text-xs"
          data-hint="Show all again"
          @click="reset"
        >
          <RotateCcw class="size-3.5" aria-hidden="true" />Reset zoom
        </button>
        <button type="button" class="button px-1.5 text-xs" :aria-pressed="asTable" @click="asTable = !asTable">
          <Table2 class="size-3.5" aria-hidden="true" />Table
        </button>
        <button type="button" class="button px-1.5 text-xs" @click="savePng">
          <Download class="size-3.5" aria-hidden="true" />PNG
        </button>
        <button type="button" class="button px-1.5 text-xs" @click="saveCsv">
          <Download class="size-3.5" aria-hidden="true" />CSV
        </button>
      </div>
    </div>
    <div v-show="!asTable" class="relative">
      <div ref="el" role="img" :aria-label="summary" class="w-full" :style="{ height }" />
      <FigureHandles
        v-if="isMovable && scale"
        :handles="figure.handles!"
        :kind="figure.x.kind"
        :prefer="prefer"
        :span="span"
        :to-pixel="toPixel"
        :from-pixel="fromPixel"
        :top="GRID.top"
        :bottom="GRID.bottom"
        :open="open"
        @move="(path, x) => emit('move', path, x)"
        @rest="isDragged = $event"
      />
    </div>
    <div v-if="asTable" class="overflow-auto" :style="{ height }" tabindex="0" :aria-label="summary">
      <table class="data">
        <thead>
          <tr>
            <th>Series</th>
            <th class="number">{{ figure.x.label }} [{{ units.x }}]</th>
            <th class="number">{{ figure.y.label }} [{{ units.y }}]</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(r, i) in tableRows" :key="i">
            <td>{{ r.series }}</td>
            <td class="number">{{ formatNumber(r.x, 5) }}</td>
            <td class="number">{{ formatNumber(r.y, 5) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </figure>
</template>
