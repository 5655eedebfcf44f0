<script setup lang="ts">
import {
  formatQuantity,
  type Drawing,
  type DrawnPoint,
  type DrawingItem,
  type Kind,
  type UnitPreference,
} from '@hypomet/core'

/** A set-up drawn from a plan's numbers: lengths to scale, arrows by size, labels in the campaign's units. */
const props = defineProps<{ drawing: Drawing; prefer: UnitPreference }>()
const WIDTH = 760
const TALLEST = 190
const ROOM = { left: 96, right: 120 }

const size = computed(() => ({
  x: Math.max(1e-9, props.drawing.to[0] - props.drawing.from[0]),
  y: Math.max(1e-9, props.drawing.to[1] - props.drawing.from[1]),
}))
const scale = computed(() => Math.min((WIDTH - ROOM.left - ROOM.right) / size.value.x, TALLEST / size.value.y))
const indent = computed(() => ROOM.left + (WIDTH - ROOM.left - ROOM.right - size.value.x * scale.value) / 2)
const px = (p: DrawnPoint): [number, number] => [
  indent.value + (p[0] - props.drawing.from[0]) * scale.value,
  (p[1] - props.drawing.from[1]) * scale.value,
]
/** How high the drawing stands with its arrows and labels. */
const heights = computed(() => {
  const ys = props.drawing.items.flatMap((i): number[] => {
    if (i.is === 'area' || i.is === 'line') return i.points.map(p => px(p)[1])
    if (i.is === 'force') {
      const a = arrow(i)
      return [a.y, a.ey, a.ly - 10, a.ly + (i.name ? 14 : 3)]
    }
    if (i.is === 'measure') {
      const m = measure(i)
      return [m.y1 - 6, m.y2 + 6, m.ly - 10, m.ly + 3]
    }
    if (i.is === 'support')
      return i.as === 'clamp'
        ? [px(i.at)[1] - clampHalf(i.depth), px(i.at)[1] + clampHalf(i.depth)]
        : [px(i.at)[1] + 20]
    if (i.is === 'turn') return [px(i.at)[1] - 18, px(i.at)[1] + (i.tone === 'load' ? 18 : 44)]
    if (i.is === 'mark') return [px(i.at)[1] + (i.side === 'above' ? -20 : 22)]
    return 'at' in i ? [px(i.at)[1] - 12, px(i.at)[1] + 4] : []
  })
  return { from: Math.min(...ys, 0) - 6, to: Math.max(...ys, 40) + (props.drawing.toScale ? 6 : 20) }
})
const clampHalf = (depth: number) => Math.max(26, depth * scale.value + 10)
const box = computed(() => ({ y: heights.value.from, height: heights.value.to - heights.value.from }))
const path = (points: readonly DrawnPoint[], closed: boolean) =>
  `M${points
    .map(p =>
      px(p)
        .map(v => v.toFixed(1))
        .join(' '),
    )
    .join(' L')}${closed ? ' Z' : ''}`
const show = (v: number, kind: Kind) => formatQuantity(v, kind, { prefer: props.prefer, digits: 3 })

const FILLS: Record<string, string> = {
  article: 'var(--accent-soft)',
  rest: 'none',
  fixture: 'var(--sunk)',
  bag: 'var(--caution-ground)',
  water: 'url(#water)',
  gas: 'url(#gas)',
  soft: 'url(#soft)',
  link: 'none',
  ground: 'none',
}
const LINES: Record<string, string> = {
  article: 'var(--accent)',
  rest: 'var(--quiet)',
  fixture: 'var(--quiet)',
  bag: 'var(--caution)',
  water: 'var(--accent)',
  gas: 'var(--quiet)',
  soft: 'var(--quiet)',
  link: 'var(--quiet)',
  ground: 'var(--quiet)',
}
const dashes = (tone: string) => (tone === 'rest' ? '1 3' : tone === 'soft' ? '4 3' : undefined)
const middle = (points: readonly DrawnPoint[]) =>
  px([points.reduce((s, p) => s + p[0], 0) / points.length, points.reduce((s, p) => s + p[1], 0) / points.length])

type Force = Extract<DrawingItem, { is: 'force' }>
/** Where an arrow ends, and where its label stands beyond it. */
function arrow(f: Force) {
  const [px0, py0] = px(f.at)
  const reach = 16 + 40 * f.share
  const sideways = f.toward[0] !== 0
  // One that pushes at a support ends below what is drawn of it, and its label stands at its tail.
  if (f.into) {
    const [ex, ey] = [px0 - f.toward[0] * 22, py0 - f.toward[1] * 22]
    const [x, y] = [ex - f.toward[0] * reach, ey - f.toward[1] * reach]
    return { x, y, ex, ey, lx: x, ly: y + (f.toward[1] < 0 ? 12 : -5), anchor: 'middle' as const }
  }
  const [x, y] = [px0, py0]
  const [ex, ey] = [x + f.toward[0] * reach, y + f.toward[1] * reach]
  return {
    x,
    y,
    ex,
    ey,
    lx: ex + Math.sign(f.toward[0]) * 6,
    ly: sideways ? ey + 4 : ey + (f.toward[1] > 0 ? 14 : -6 - (f.name ? 12 : 0)),
    anchor: sideways ? (f.toward[0] > 0 ? ('start' as const) : ('end' as const)) : ('middle' as const),
  }
}
/** Lengths below stand clear of arrows that hang there. */
const below = computed(() => (props.drawing.items.some(i => i.is === 'force' && (i.into || i.toward[1] > 0)) ? 92 : 14))
type Measure = Extract<DrawingItem, { is: 'measure' }>
function measure(m: Measure) {
  const [a, b] = [px(m.from), px(m.to)]
  const off = { above: [0, -12], below: [0, below.value], left: [-16, 0], right: [24, 0] }[m.side] as [number, number]
  const [x1, y1, x2, y2] = [a[0] + off[0], a[1] + off[1], b[0] + off[0], b[1] + off[1]]
  const upright = m.side === 'left' || m.side === 'right'
  return {
    x1,
    y1,
    x2,
    y2,
    upright,
    lx: upright ? x1 + (m.side === 'right' ? 8 : -8) : (x1 + x2) / 2,
    ly: upright ? (y1 + y2) / 2 + 4 : y1 + (m.side === 'above' ? -5 : 14),
    anchor: upright ? (m.side === 'right' ? ('start' as const) : ('end' as const)) : ('middle' as const),
  }
}
/** Many arrows side by side: only the ends and the largest are labelled. */
const labelled = computed(() => {
  const loads = props.drawing.items.filter((i): i is Force => i.is === 'force' && i.tone === 'load')
  const most = loads.reduce((m, f) => (f.value > m ? f.value : m), 0)
  return new Set(
    loads.length <= 6 ? loads : loads.filter((f, i) => i === 0 || i === loads.length - 1 || f.value === most),
  )
})
</script>

<template>
  <svg :viewBox="`0 ${box.y} ${WIDTH} ${box.height}`" class="h-auto w-full" role="img" :aria-label="drawing.title">
    <defs>
      <pattern id="hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="1.4" height="7" fill="var(--quiet)" />
      </pattern>
      <pattern id="water" width="12" height="8" patternUnits="userSpaceOnUse">
        <rect width="12" height="8" fill="var(--accent-soft)" />
        <path d="M0 5 q3 -3 6 0 t6 0" fill="none" stroke="var(--accent)" stroke-width="0.9" opacity="0.55" />
      </pattern>
      <pattern id="gas" width="9" height="9" patternUnits="userSpaceOnUse">
        <rect width="9" height="9" fill="var(--panel)" />
        <circle cx="2.5" cy="2.5" r="0.9" fill="var(--quiet)" />
        <circle cx="7" cy="6.5" r="0.9" fill="var(--quiet)" />
      </pattern>
      <pattern id="soft" width="8" height="8" patternUnits="userSpaceOnUse">
        <rect width="8" height="8" fill="var(--sunk)" />
        <path d="M0 8 L8 0" stroke="var(--quiet)" stroke-width="0.8" />
      </pattern>
      <marker
        id="head"
        viewBox="0 0 8 8"
        refX="7"
        refY="4"
        markerWidth="9"
        markerHeight="9"
        markerUnits="userSpaceOnUse"
        orient="auto"
      >
        <path d="M0 0 L8 4 L0 8 Z" fill="context-stroke" />
      </marker>
    </defs>
    <template v-for="(item, i) in drawing.items" :key="i">
      <g v-if="item.is === 'area'">
        <path
          :d="path(item.points, true)"
          :fill="FILLS[item.tone]"
          :stroke="LINES[item.tone]"
          :stroke-dasharray="dashes(item.tone)"
          :stroke-width="item.tone === 'article' ? 1.5 : 1"
        />
        <text
          v-if="item.label"
          :x="middle(item.points)[0]"
          :y="middle(item.points)[1] + 4"
          text-anchor="middle"
          class="fill-ink text-[11px] font-semibold"
        >
          {{ item.label }}
        </text>
      </g>
      <path
        v-else-if="item.is === 'line'"
        :d="path(item.points, false)"
        fill="none"
        :stroke="LINES[item.tone]"
        :stroke-dasharray="dashes(item.tone)"
        :stroke-width="item.tone === 'fixture' ? 4 : item.tone === 'ground' ? 2 : 1.4"
      />
      <circle
        v-else-if="item.is === 'circle'"
        :cx="px(item.at)[0]"
        :cy="px(item.at)[1]"
        :r="item.radius * scale"
        :fill="FILLS[item.tone]"
        :stroke="LINES[item.tone]"
      />
      <g v-else-if="item.is === 'support'" :transform="`translate(${px(item.at)[0]} ${px(item.at)[1]})`">
        <rect
          v-if="item.as === 'clamp'"
          x="-20"
          :y="-clampHalf(item.depth)"
          width="20"
          :height="2 * clampHalf(item.depth)"
          fill="url(#hatch)"
          stroke="var(--quiet)"
        />
        <path
          v-else-if="item.as === 'pin'"
          d="M0 0 l-9 15 h18 z M-13 18 h26"
          fill="var(--sunk)"
          stroke="var(--quiet)"
        />
        <g v-else>
          <circle cx="0" cy="8" r="7.5" fill="var(--sunk)" stroke="var(--quiet)" />
          <path d="M-13 18 h26" stroke="var(--quiet)" />
        </g>
      </g>
      <g v-else-if="item.is === 'force'">
        <line
          :x1="arrow(item).x"
          :y1="arrow(item).y"
          :x2="arrow(item).ex"
          :y2="arrow(item).ey"
          :stroke="item.tone === 'load' ? 'var(--ink)' : 'var(--quiet)'"
          :stroke-width="item.tone === 'load' ? 2.4 : 1.6"
          :stroke-dasharray="item.tone === 'load' ? undefined : '5 2'"
          marker-end="url(#head)"
        />
        <template v-if="item.tone !== 'load' || labelled.has(item)">
          <text
            :x="arrow(item).lx"
            :y="arrow(item).ly"
            :text-anchor="arrow(item).anchor"
            :class="['text-[11px]', item.tone === 'load' ? 'fill-ink font-semibold' : 'fill-quiet']"
          >
            {{ show(item.value, item.kind) }}
          </text>
          <text
            v-if="item.name"
            :x="arrow(item).lx"
            :y="arrow(item).ly + 12"
            :text-anchor="arrow(item).anchor"
            class="fill-quiet text-[10px]"
          >
            {{ item.name }}
          </text>
        </template>
      </g>
      <g v-else-if="item.is === 'turn'" :transform="`translate(${px(item.at)[0]} ${px(item.at)[1]})`">
        <path
          d="M-11 -9 A 14 14 0 1 1 -11 9"
          fill="none"
          :stroke="item.tone === 'load' ? 'var(--ink)' : 'var(--quiet)'"
          :stroke-width="item.tone === 'load' ? 2.4 : 1.6"
          :stroke-dasharray="item.tone === 'load' ? undefined : '5 2'"
          marker-end="url(#head)"
        />
        <text
          :x="item.tone === 'load' ? 20 : -26"
          :y="item.tone === 'load' ? 4 : 40"
          :text-anchor="item.tone === 'load' ? 'start' : 'middle'"
          :class="['text-[11px]', item.tone === 'load' ? 'fill-ink font-semibold' : 'fill-quiet']"
        >
          {{ show(item.value, item.kind) }}{{ item.name ? `, ${item.name}` : '' }}
        </text>
      </g>
      <g
        v-else-if="item.is === 'measure'"
        :stroke="item.tone === 'predicted' ? 'var(--predicted)' : 'var(--quiet)'"
        :stroke-dasharray="item.tone === 'predicted' ? '2 2' : undefined"
      >
        <line
          :x1="measure(item).x1"
          :y1="measure(item).y1"
          :x2="measure(item).x2"
          :y2="measure(item).y2"
          stroke-width="1.3"
        />
        <path
          :d="
            measure(item).upright
              ? `M${measure(item).x1 - 5} ${measure(item).y1} h10 M${measure(item).x2 - 5} ${measure(item).y2} h10`
              : `M${measure(item).x1} ${measure(item).y1 - 5} v10 M${measure(item).x2} ${measure(item).y2 - 5} v10`
          "
          stroke-width="1.3"
          stroke-dasharray="none"
        />
        <text
          stroke="none"
          :x="measure(item).lx"
          :y="measure(item).ly"
          :text-anchor="measure(item).anchor"
          :class="['text-[11px] font-semibold', item.tone === 'predicted' ? 'fill-predicted' : 'fill-quiet']"
        >
          {{ show(item.value, item.kind) }}{{ item.name ? ` ${item.name}` : '' }}
        </text>
      </g>
      <g
        v-else-if="item.is === 'mark'"
        :transform="`translate(${px(item.at)[0]} ${px(item.at)[1] + (item.side === 'above' ? -6 : 8)})`"
      >
        <path :d="item.side === 'above' ? 'M0 4 l-5 -9 h10 z' : 'M0 -5 l-5 9 h10 z'" fill="var(--open)" />
        <text x="9" :y="item.side === 'above' ? 0 : 8" class="fill-open text-[11px]">{{ item.text }}</text>
      </g>
      <text
        v-else-if="item.is === 'text'"
        :x="px(item.at)[0]"
        :y="px(item.at)[1]"
        :text-anchor="item.anchor"
        :class="[
          'text-[11px]',
          item.tone === 'ink'
            ? 'fill-ink font-semibold'
            : item.tone === 'caution'
              ? 'fill-open font-semibold'
              : 'fill-quiet',
        ]"
      >
        {{ item.text }}{{ item.value === undefined ? '' : `${item.text ? ' ' : ''}${show(item.value, item.kind!)}` }}
      </text>
    </template>
    <text
      v-if="!drawing.toScale"
      :x="WIDTH - 8"
      :y="box.y + box.height - 6"
      text-anchor="end"
      class="fill-quiet text-[10px]"
    >
      sizes by strength, not to scale
    </text>
  </svg>
</template>
