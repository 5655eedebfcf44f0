<script setup lang="ts">
import { niceTicks, tickText } from '~/composables/charts/niceTicks'
import { stripLook } from '~/composables/charts/stripLooks'

/** One strip of a record: minima and maxima of one or several channels over a range of time. */
export interface StripSeries {
  name: string
  /** s */
  t: number[]
  lo: (number | null)[]
  hi: (number | null)[]
}
const props = defineProps<{
  series: StripSeries[]
  from: number
  to: number
  unit: string
  height: number
  cursor: number | null
  selection: [number, number] | null
  flags: number[]
  events: number[]
  steps: { from: number; to: number }[]
  label: string
}>()

const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const { width } = useElementSize(canvas)
const { isDark } = useTheme()
const LEFT = 64
/** Room for the name, so that it hides no curve. */
const TOP = 18
/** Pixels a pair may take and still be drawn as a bar. */
const WIDEST_BAR = 2

/** Extremes of what is in view, a little widened. */
const range = computed<[number, number]>(() => {
  let [least, most] = [Infinity, -Infinity]
  for (const s of props.series)
    for (let i = 0; i < s.t.length; i++) {
      if (s.t[i]! < props.from || s.t[i]! > props.to) continue
      least = Math.min(least, s.lo[i] ?? Infinity)
      most = Math.max(most, s.hi[i] ?? -Infinity)
    }
  if (least > most) return [0, 1]
  const pad = (most - least) * 0.06 || Math.abs(most) * 0.05 || 1
  return [least - pad, most + pad]
})

function draw(): void {
  const el = canvas.value
  if (!el || width.value === 0) return
  const ratio = window.devicePixelRatio || 1
  el.width = Math.round(width.value * ratio)
  el.height = Math.round(props.height * ratio)
  const g = el.getContext('2d')!
  const style = getComputedStyle(el)
  const token = (name: string) => style.getPropertyValue(`--${name}`).trim()
  g.scale(ratio, ratio)
  g.clearRect(0, 0, width.value, props.height)
  const [least, most] = range.value
  const x = (t: number) => LEFT + ((t - props.from) / (props.to - props.from)) * (width.value - LEFT)
  const y = (v: number) => props.height - 4 - ((v - least) / (most - least)) * (props.height - TOP - 4)
  g.fillStyle = token('sunk')
  for (const s of props.steps) {
    const left = Math.max(LEFT, x(s.from))
    if (x(s.to) > left) g.fillRect(left, 0, x(s.to) - left, props.height)
  }
  if (props.selection) {
    g.fillStyle = token('accent-soft')
    g.fillRect(x(props.selection[0]), 0, x(props.selection[1]) - x(props.selection[0]), props.height)
  }
  g.font = '11px "Inter Variable"'
  g.textAlign = 'right'
  g.textBaseline = 'middle'
  const ticks = niceTicks(least, most, Math.max(2, (props.height - TOP) / 30))
  for (const v of ticks.values) {
    g.strokeStyle = token('line')
    g.beginPath()
    g.moveTo(LEFT, y(v))
    g.lineTo(width.value, y(v))
    g.stroke()
    g.fillStyle = token('quiet')
    g.fillText(tickText(v, ticks.step), LEFT - 6, y(v))
  }
  g.save()
  g.beginPath()
  g.rect(LEFT, 0, width.value - LEFT, props.height)
  g.clip()
  for (const t of props.events) line(g, x(t), token('predicted'), [1, 3])
  for (const t of props.flags) line(g, x(t), token('open'), [3, 3])
  props.series.forEach((s, k) => {
    const { colour, dash } = stripLook(k)
    const inside = s.t.length > 1 ? (x(s.t.at(-1)!) - x(s.t[0]!)) / (s.t.length - 1) : Infinity
    if (inside <= WIDEST_BAR && dash.length === 0) bars(g, s, x, y, token(colour))
    else envelope(g, s, x, y, token(colour), dash)
  })
  if (props.cursor !== null) line(g, x(props.cursor), token('ink'), [])
  g.restore()
}

function line(g: CanvasRenderingContext2D, at: number, colour: string, dash: number[]): void {
  g.strokeStyle = colour
  g.setLineDash(dash)
  g.lineWidth = 1
  g.beginPath()
  g.moveTo(at, 0)
  g.lineTo(at, props.height)
  g.stroke()
  g.setLineDash([])
}

/**
 * Where there is a pair for every few pixels, bars from minimum to maximum: the same picture, and much quicker than a
 * line.
 */
function bars(
  g: CanvasRenderingContext2D,
  s: StripSeries,
  x: (t: number) => number,
  y: (v: number) => number,
  colour: string,
): void {
  g.fillStyle = colour
  g.beginPath()
  let [lastTop, lastBottom] = [NaN, NaN]
  for (let i = 0; i < s.t.length; i++) {
    const [lo, hi] = [s.lo[i], s.hi[i]]
    if (lo == null || hi == null) {
      lastTop = lastBottom = NaN
      continue
    }
    let [top, bottom] = [y(hi), y(lo)]
    const [ownTop, ownBottom] = [top, bottom]
    // Up or down to where the one before ended, so that no gap shows between them.
    if (lastBottom < top) top = lastBottom
    if (lastTop > bottom) bottom = lastTop
    const left = x(s.t[i]!)
    const right = i + 1 < s.t.length ? Math.min(x(s.t[i + 1]!), left + WIDEST_BAR) : left + 1
    g.rect(left, top - 0.6, Math.max(1, right - left), bottom - top + 1.2)
    lastTop = ownTop
    lastBottom = ownBottom
  }
  g.fill()
}

function envelope(
  g: CanvasRenderingContext2D,
  s: StripSeries,
  x: (t: number) => number,
  y: (v: number) => number,
  colour: string,
  dash: number[],
): void {
  g.strokeStyle = colour
  g.lineWidth = 1.2
  g.setLineDash(dash)
  g.lineJoin = 'round'
  g.beginPath()
  let down = false
  for (let i = 0; i < s.t.length; i++) {
    const [lo, hi] = [s.lo[i], s.hi[i]]
    if (lo == null || hi == null) {
      down = false
      continue
    }
    const at = x(s.t[i]!)
    if (down) g.lineTo(at, y(hi))
    else g.moveTo(at, y(hi))
    if (hi !== lo) g.lineTo(at, y(lo))
    down = true
  }
  g.stroke()
  g.setLineDash([])
}

watch(
  [
    width,
    isDark,
    () => [
      props.series,
      props.from,
      props.to,
      props.cursor,
      props.selection,
      props.flags,
      props.events,
      props.steps,
      props.height,
    ],
  ],
  () => requestAnimationFrame(draw),
)
onMounted(() => requestAnimationFrame(draw))
</script>

<template>
  <canvas ref="canvas" class="block w-full" :style="{ height: `${height}px` }" role="img" :aria-label="label" />
</template>
