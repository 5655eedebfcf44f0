<script setup lang="ts">
import { formatNumber, inUnit, preferredUnit, type Figure, type UnitPreference } from '@hypomet/core'

/**
 * Values at places of a plane, drawn to scale: darker is more (of either sign), each with its number, the largest
 * ringed.
 */
const props = defineProps<{
  figure: Figure
  prefer: UnitPreference
  /** Of the shades, where several maps are compared. */ scale?: readonly [number, number]
  compact?: boolean
}>()
const field = computed(() => props.figure.field!)
const unit = computed(() => preferredUnit(field.value.kind, { prefer: props.prefer }))
const place = computed(() => preferredUnit(props.figure.x.kind, { prefer: props.prefer }))

const gaps = (list: number[]) => {
  const sorted = [...new Set(list)].sort((a, b) => a - b)
  // Places that were measured scatter a little: what is as good as one row counts as one.
  const apart = Math.max(1e-9, SAME_ROW * (sorted.at(-1)! - sorted[0]!))
  return Math.min(
    ...sorted
      .slice(1)
      .map((v, i) => v - sorted[i]!)
      .filter(d => d > apart),
    Infinity,
  )
}
const SAME_ROW = 0.01
const extent = (list: number[]): [number, number] => [Math.min(...list), Math.max(...list)]
const cell = computed(() => {
  const { x, y } = field.value
  const [[x0, x1], [y0, y1]] = [extent(x), extent(y)]
  const fallback = Math.max(x1 - x0, y1 - y0, 1e-9) / Math.max(2, Math.sqrt(x.length))
  const own = (d: number) => (Number.isFinite(d) ? d : fallback)
  return { w: own(gaps(x)), h: own(gaps(y)), x0, x1, y0, y1 }
})
const view = computed(() => {
  const { w, h, x0, x1, y0, y1 } = cell.value
  return `${x0 - w} ${-y1 - h} ${x1 - x0 + 2 * w} ${y1 - y0 + 2 * h}`
})
/** From this share on numbers stand light on dark: in between neither could be read. */
const largestAt = computed(() =>
  field.value.value.reduce((m, v, i, all) => (Math.abs(v) > Math.abs(all[m]!) ? i : m), 0),
)
const DARK = 0.72
const cells = computed(() => {
  const { x, y, value } = field.value
  const [least, most] = props.scale ?? extent(value)
  const [low, high] = least < 0 ? [0, Math.max(most, -least)] : [least, most]
  const hot = largestAt.value
  return value.map((v, i) => {
    const share = high > low ? (Math.abs(v) - low) / (high - low) : 0.5
    return {
      x: x[i]!,
      y: -y[i]!,
      isDark: share > DARK,
      shade: share > DARK ? 0.86 + (0.14 * (share - DARK)) / (1 - DARK) : 0.05 + 0.6 * share,
      hot: i === hot,
      text: formatNumber(inUnit(v, field.value.kind, unit.value), 3),
    }
  })
})
const where = (si: number) => `${formatNumber(inUnit(si, props.figure.x.kind, place.value), 3)}\u202f${place.value}`
const hottest = computed(() => {
  const { x, y, value } = field.value
  const i = largestAt.value
  return (
    `${formatNumber(inUnit(value[i]!, field.value.kind, unit.value), 4)}\u202f${unit.value} at ` +
    `${where(x[i]!)}, ${where(y[i]!)}`
  )
})
</script>

<template>
  <figure class="m-0">
    <svg
      :viewBox="view"
      :class="['w-full', compact ? 'h-56' : 'h-[340px]']"
      role="img"
      :aria-label="`${field.label} at ${field.value.length} places; largest ${hottest}`"
    >
      <g v-for="(c, i) in cells" :key="i">
        <rect
          :x="c.x - cell.w / 2"
          :y="c.y - cell.h / 2"
          :width="cell.w"
          :height="cell.h"
          fill="var(--measured)"
          :fill-opacity="c.shade"
          stroke="var(--panel)"
          :stroke-width="cell.w * 0.03"
        />
        <rect
          v-if="c.hot"
          :x="c.x - cell.w * 0.46"
          :y="c.y - cell.h * 0.46"
          :width="cell.w * 0.92"
          :height="cell.h * 0.92"
          fill="none"
          stroke="var(--fail)"
          :stroke-width="cell.w * 0.06"
        />
        <text
          :x="c.x"
          :y="c.y"
          :font-size="Math.min(cell.w, cell.h) * 0.3"
          text-anchor="middle"
          dominant-baseline="central"
          :fill="c.isDark ? 'var(--on-accent)' : 'var(--ink)'"
        >
          {{ c.text }}
        </text>
      </g>
    </svg>
    <figcaption class="text-xs text-quiet">
      {{ field.label }} in {{ unit }}, places to scale. Largest: {{ hottest }}, ringed.
    </figcaption>
  </figure>
</template>
