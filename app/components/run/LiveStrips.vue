<script setup lang="ts">
import { StripPainter, type StripBox } from '~/composables/charts/stripPainter'
import type { LiveView } from '~/composables/run/useLiveRun'

/** Channels as strips that run; a pair that ought to agree is one strip with both in it. */
export interface LiveStrip {
  roles: string[]
  label: string
  reading: string
  flag: string
}
const props = defineProps<{ live: LiveView; strips: LiveStrip[]; window: number }>()

const MOST = 64
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const frame = useTemplateRef<HTMLDivElement>('frame')
const { width, height } = useElementSize(frame)
const shown = computed(() => props.strips.slice(0, MOST))
const columns = computed(() =>
  shown.value.length <= 6 ? 1 : shown.value.length <= 18 ? 2 : shown.value.length <= 36 ? 3 : 4,
)
const rows = computed(() => Math.ceil(shown.value.length / columns.value))
const cell = computed(() => ({
  width: width.value / columns.value,
  height: Math.max(30, Math.floor(height.value / Math.max(1, rows.value))),
}))
const HEAD = 14
const roles = computed(() => shown.value.flatMap(s => s.roles))
/** Names alone: a reading that changes must not lay the strips out anew. */
const layout = computed(() => JSON.stringify([roles.value, cell.value, props.window]))

let painter: StripPainter | null = null
let asked = 0
let frames = 0

function layOut(): void {
  const el = canvas.value
  if (!el || width.value === 0) return
  const ratio = window.devicePixelRatio || 1
  el.width = Math.round(width.value * ratio)
  el.height = Math.round(cell.value.height * rows.value * ratio)
  const g = el.getContext('2d', { alpha: false })!
  const style = getComputedStyle(el)
  const token = (name: string) => style.getPropertyValue(`--${name}`).trim()
  g.scale(ratio, ratio)
  g.fillStyle = token('panel')
  g.fillRect(0, 0, el.width, el.height)
  let at = 0
  const boxes = shown.value.map((s, i): StripBox => ({
    series: s.roles.map(() => at++),
    x: (i % columns.value) * cell.value.width,
    y: Math.floor(i / columns.value) * cell.value.height + HEAD,
    width: cell.value.width - 8,
    height: cell.value.height - HEAD - 3,
  }))
  painter = new StripPainter(g, props.live.strips, boxes, props.window, {
    ground: token('ground'),
    line: token('line'),
    series: [token('measured'), token('open')],
  })
  painter.all()
}

/** As often as the screen is drawn, at most thirty times a second, and only when something has come. */
function onPiece(): void {
  if (asked) return
  asked = requestAnimationFrame(() => {
    asked = 0
    painter?.more()
    if (++frames % 30 === 0 && canvas.value) canvas.value.dataset.frames = String(frames)
  })
}

onMounted(() => {
  watch(
    layout,
    (now, before) => {
      if (before === undefined || JSON.stringify(props.live.strips.roles) !== JSON.stringify(roles.value))
        props.live.draw(roles.value)
      requestAnimationFrame(layOut)
    },
    { immediate: true },
  )
  props.live.strips.listen(onPiece)
})
// Colours come from the page's theme, which may turn dark after this stands.
useMutationObserver(
  () => (import.meta.client ? document.documentElement : null),
  () => requestAnimationFrame(layOut),
  { attributes: true },
)
onBeforeUnmount(() => {
  props.live.strips.listen(null)
  props.live.draw([])
  cancelAnimationFrame(asked)
})
</script>

<template>
  <div ref="frame" class="relative min-h-0 flex-1 overflow-y-auto" tabindex="0" aria-label="Strips">
    <canvas
      ref="canvas"
      class="absolute inset-x-0 top-0 w-full"
      :style="{ height: `${cell.height * rows}px` }"
      role="img"
      :aria-label="`The last ${Math.round(window)} s of ${shown.map(s => s.label).join(', ')}`"
      data-testid="strips"
    />
    <ul class="pointer-events-none absolute inset-0 text-2xs" aria-hidden="true">
      <li
        v-for="(s, i) in shown"
        :key="s.label"
        class="absolute flex gap-2 overflow-hidden whitespace-nowrap pr-3"
        :style="{
          left: `${(i % columns) * cell.width}px`,
          top: `${Math.floor(i / columns) * cell.height}px`,
          width: `${cell.width}px`,
        }"
      >
        <span :class="['truncate', s.flag ? 'font-semibold text-open' : 'text-quiet']">{{ s.label }}</span><span
          class="ml-auto tabular-nums"
          >{{ s.reading }}</span
        >
      </li>
    </ul>
  </div>
</template>
