<script setup lang="ts">
import { formatNumber, quantityToSi, type MethodOutput, type QuantityInput, type UnitPreference } from '@hypomet/core'

/** Field, way down and predicted ellipse, drawn to scale with north up; and where it really came down. */
const props = defineProps<{
  output: MethodOutput
  settings: Record<string, unknown>
  prefer: UnitPreference
  landed?: { east: number; north: number } | null
}>()
type Point = [number, number]
const si = (q: QuantityInput) => (typeof q === 'number' ? q : quantityToSi(q, 'length'))
const points = (table: string): Point[] => {
  const t = props.output.tables[table]
  return t ? (t.columns['east'] as number[]).map((e, i) => [e, (t.columns['north'] as number[])[i]!]) : []
}
const path = computed(() => points('path'))
const ellipse = computed(() => points('ellipse'))
const field = computed(() =>
  ((props.settings['field'] ?? []) as [QuantityInput, QuantityInput][]).map(([e, n]): Point => [si(e), si(n)]),
)
const landing = computed<Point>(() => [
  props.output.results['landingEast']!.value!,
  props.output.results['landingNorth']!.value!,
])
const all = computed(() => [
  ...path.value,
  ...ellipse.value,
  ...field.value,
  landing.value,
  ...(props.landed ? [[props.landed.east, props.landed.north] as Point] : []),
])
const frame = computed(() => {
  const [xs, ys] = [all.value.map(p => p[0]), all.value.map(p => p[1])]
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]
  const size = Math.max(x1 - x0, (y1 - y0) * 1.6, 10)
  const pad = 0.08 * size
  return {
    x: (x0 + x1) / 2 - size / 2 - pad,
    y: -((y0 + y1) / 2) - size / 3.2 - pad,
    w: size + 2 * pad,
    h: size / 1.6 + 2 * pad,
    size,
  }
})
const line = (list: Point[]) => list.map(([e, n]) => `${e},${-n}`).join(' ')
const bar = computed(() => {
  const wanted = frame.value.size / 5
  const decade = 10 ** Math.floor(Math.log10(wanted))
  return [5, 2, 1].map(m => m * decade).find(v => v <= wanted) ?? decade
})
/** In or out, by the ellipse’s own axes. */
const verdict = computed(() => {
  const at = props.landed
  if (!at || ellipse.value.length === 0) return ''
  const middle = ellipse.value.slice(0, -1).reduce((s, p) => [s[0] + p[0], s[1] + p[1]] as Point, [0, 0])
  const [cx, cy] = [middle[0] / (ellipse.value.length - 1), middle[1] / (ellipse.value.length - 1)]
  const bearing = props.output.results['ellipseBearing']!.value!
  const [dx, dy] = [at.east - cx, at.north - cy]
  const along = dx * Math.sin(bearing) + dy * Math.cos(bearing)
  const across = dx * Math.cos(bearing) - dy * Math.sin(bearing)
  const share = Math.hypot(
    along / props.output.results['ellipseMajor']!.value!,
    across / props.output.results['ellipseMinor']!.value!,
  )
  return (
    `It landed ${formatNumber(Math.hypot(dx, dy), 3)} m from the middle of the ellipse, ` +
    `${share <= 1 ? 'inside' : 'outside'} it (${formatNumber(100 * share, 2)} % of the way to its edge).`
  )
})
const crossAt = (x: number, y: number, r: number) =>
  `M${x - r} ${y - r}l${2 * r} ${2 * r}M${x + r} ${y - r}l${-2 * r} ${2 * r}`
function arrowNorth(size: number): string {
  const [half, aside, down] = [size / 30, size / 80, size / 50]
  return `M0 ${half}V${-half}l${-aside} ${down}M0 ${-half}l${aside} ${down}`
}
const described = computed(() => {
  const [east, north] = landing.value.map(m => formatNumber(m, 3))
  return `Landing map, north up: predicted ${east} m east, ${north} m north. ${verdict.value}`
})
</script>

<template>
  <figure class="m-0" data-landing>
    <svg
      :viewBox="`${frame.x} ${frame.y} ${frame.w} ${frame.h}`"
      class="max-h-80 w-full"
      role="img"
      :aria-label="described"
    >
      <polygon
        v-if="field.length > 2"
        :points="line(field)"
        fill="var(--accent-soft)"
        stroke="var(--accent)"
        :stroke-width="frame.size / 300"
      />
      <polygon
        v-if="ellipse.length > 2"
        :points="line(ellipse)"
        fill="var(--predicted)"
        fill-opacity="0.14"
        stroke="var(--predicted)"
        :stroke-dasharray="`${frame.size / 80} ${frame.size / 100}`"
        :stroke-width="frame.size / 250"
      />
      <polyline
        :points="line(path)"
        fill="none"
        stroke="var(--predicted)"
        :stroke-dasharray="`${frame.size / 150} ${frame.size / 80}`"
        :stroke-width="frame.size / 250"
      />
      <circle v-for="(p, i) in path" :key="i" :cx="p[0]" :cy="-p[1]" :r="frame.size / 220" fill="var(--predicted)" />
      <circle
        :cx="landing[0]"
        :cy="-landing[1]"
        :r="frame.size / 90"
        fill="none"
        stroke="var(--predicted)"
        :stroke-width="frame.size / 250"
      />
      <g v-if="landed" stroke="var(--ink)" :stroke-width="frame.size / 180">
        <path :d="crossAt(landed.east, -landed.north, frame.size / 70)" />
      </g>
      <g :transform="`translate(${frame.x + frame.w * 0.03} ${frame.y + frame.h * 0.95})`">
        <path
          :d="`M0 0h${bar}M0 ${-frame.size / 100}v${frame.size / 50}M${bar} ${-frame.size / 100}v${frame.size / 50}`"
          stroke="var(--ink)"
          :stroke-width="frame.size / 300"
        />
        <text :x="bar / 2" :y="-frame.size / 60" :font-size="frame.size / 32" text-anchor="middle" fill="var(--ink)">
          {{ bar }} m
        </text>
      </g>
      <g :transform="`translate(${frame.x + frame.w * 0.95} ${frame.y + frame.h * 0.12})`">
        <path :d="arrowNorth(frame.size)" fill="none" stroke="var(--ink)" :stroke-width="frame.size / 300" />
        <text y="0" :x="-frame.size / 30" :font-size="frame.size / 32" text-anchor="middle" fill="var(--ink)">N</text>
      </g>
    </svg>
    <figcaption class="text-xs text-quiet">
      To scale, north up. Green: field. Dotted: way down and the ellipse that holds 95 % of the landings.
      {{ landed ? 'Cross: where it landed.' : 'Enter where it landed under Result to see it here.' }} {{ verdict }}
    </figcaption>
  </figure>
</template>
