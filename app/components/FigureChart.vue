<script setup lang="ts">
import type { EChartsType } from 'echarts/core'
import { Download, RotateCcw, Table2 } from '@lucide/vue'
import { formatNumber, inUnit, preferredUnit, type Figure, type UnitPreference } from '@hypomet/core'
import { chartOption, figureCsv } from '~/composables/chartOption'

/** A figure of the core: cursor values for every series, drag to zoom, reset, the same data as a table, PNG and CSV. */
const props = withDefaults(defineProps<{ figure: Figure; prefer: UnitPreference; name: string; height?: string; live?: boolean }>(), { height: '320px' })

const el = useTemplateRef<HTMLDivElement>('el')
const asTable = ref(false)
let chart: EChartsType | undefined
const { isDark } = useTheme()

onMounted(async () => {
  const { createChart } = await import('~/composables/createChart')
  // Beside a run numbers come first.
  if (props.live) await new Promise(resolve => setTimeout(resolve, 150))
  if (!el.value) return
  chart = createChart(el.value)
  draw()
})
useResizeObserver(el, () => chart?.resize())
onBeforeUnmount(() => chart?.dispose())
watch([() => props.figure, () => props.prefer, isDark], () => nextTick(draw))

function draw(): void {
  if (!chart || !el.value) return
  chart.setOption(chartOption(props.figure, props.prefer, getComputedStyle(el.value)), { replaceMerge: ['series'], lazyUpdate: props.live ?? false })
  chart.dispatchAction({ type: 'takeGlobalCursor', key: 'dataZoomSelect', dataZoomSelectActive: true })
}

const reset = () => chart?.dispatchAction({ type: 'dataZoom', start: 0, end: 100 })

function save(href: string, extension: string): void {
  const a = document.createElement('a')
  a.href = href
  a.download = `${props.name}.${extension}`
  a.click()
}
const savePng = () => chart && save(chart.getDataURL({ pixelRatio: 2, backgroundColor: getComputedStyle(el.value!).getPropertyValue('--panel') }), 'png')
const saveCsv = () => save(URL.createObjectURL(new Blob([figureCsv(props.figure, props.prefer)], { type: 'text/csv' })), 'csv')

const units = computed(() => ({ x: preferredUnit(props.figure.x.kind, { prefer: props.prefer }), y: preferredUnit(props.figure.y.kind, { prefer: props.prefer }) }))
const summary = computed(() => `${props.figure.y.label} in ${units.value.y} over ${props.figure.x.label.toLowerCase()} in ${units.value.x}: ${props.figure.series.map(s => s.name).join(', ')}`)
const tableRows = computed(() => props.figure.series.flatMap(s => {
  const stride = Math.max(1, Math.ceil(s.x.length / 60))
  return s.x.flatMap((x, i) => (i % stride === 0 && x !== null && s.y[i] !== null ? [{ series: s.name, x: inUnit(x, props.figure.x.kind, units.value.x), y: inUnit(s.y[i]!, props.figure.y.kind, units.value.y) }] : []))
}))
</script>

<template>
  <figure class="m-0">
    <div class="no-print mb-1 flex flex-wrap items-center justify-between gap-2">
      <ul class="flex flex-wrap gap-x-3 text-xs text-quiet" aria-label="Series">
        <li v-for="s in figure.series" :key="s.name" class="flex items-center gap-1">
          <svg viewBox="0 0 22 8" class="h-2 w-5" aria-hidden="true">
            <circle v-if="s.style === 'points'" cx="11" cy="4" r="3" fill="none" stroke="var(--ink)" stroke-width="1.6" />
            <path v-else d="M1 4h20" :stroke="s.style === 'predicted' ? 'var(--predicted)' : s.style === 'fit' ? 'var(--ink)' : 'var(--measured)'" stroke-width="2" :stroke-dasharray="s.style === 'predicted' ? '2 3' : s.style === 'fit' ? '7 3' : 'none'" />
          </svg>{{ s.name }}
        </li>
      </ul>
      <div v-if="!live" class="flex gap-1">
        <button type="button" class="button px-1.5 text-xs" title="Show all again" @click="reset"><RotateCcw class="size-3.5" aria-hidden="true" />Whole</button>
        <button type="button" class="button px-1.5 text-xs" :aria-pressed="asTable" @click="asTable = !asTable"><Table2 class="size-3.5" aria-hidden="true" />Table</button>
        <button type="button" class="button px-1.5 text-xs" @click="savePng"><Download class="size-3.5" aria-hidden="true" />PNG</button>
        <button type="button" class="button px-1.5 text-xs" @click="saveCsv"><Download class="size-3.5" aria-hidden="true" />CSV</button>
      </div>
    </div>
    <div v-show="!asTable" ref="el" role="img" :aria-label="summary" class="w-full" :style="{ height }" />
    <div v-if="asTable" class="overflow-auto" :style="{ height }" tabindex="0" :aria-label="summary">
      <table class="data">
        <thead><tr><th>Series</th><th class="number">{{ figure.x.label }} [{{ units.x }}]</th><th class="number">{{ figure.y.label }} [{{ units.y }}]</th></tr></thead>
        <tbody><tr v-for="(r, i) in tableRows" :key="i"><td>{{ r.series }}</td><td class="number">{{ formatNumber(r.x, 5) }}</td><td class="number">{{ formatNumber(r.y, 5) }}</td></tr></tbody>
      </table>
    </div>
  </figure>
</template>
