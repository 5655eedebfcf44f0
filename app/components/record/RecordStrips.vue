<script setup lang="ts">
import { formatNumber } from '@hypomet/core'
import { niceTicks, tickText } from '~/composables/charts/niceTicks'
import { stripLook } from '~/composables/charts/stripLooks'
import type { TimeView } from '~/composables/record/useTimeView'
import type { DerivedStrip, RecordChannel, RecordStrip } from '~/types/api'

/** Channels of a record over one time axis: stacked, or overlaid by unit; pointed at, zoomed, selected. */
const props = defineProps<{
  channels: RecordChannel[]
  strip: RecordStrip | null
  derived: DerivedStrip | null
  system: 'metric' | 'imperial'
  view: TimeView
  overlaid: boolean
  /** Pixels for all strips together. */
  room: number
  cursor: number | null
  selection: [number, number] | null
  flags: number[]
  events: { t: number; kind: string; note: string }[]
  steps: TimeView[]
}>()
const emit = defineEmits<{
  width: [pixels: number]
  show: [from: number, to: number]
  zoom: [factor: number, around: number]
  all: []
  cursor: [t: number | null]
  select: [range: [number, number] | null, done: boolean]
}>()
const { unitOf, allShown } = useChannelUnits(() => props.system)
const plot = useTemplateRef<HTMLDivElement>('plot')
const { width } = useElementSize(plot)
const LEFT = 64
watch(width, w => emit('width', Math.max(200, Math.round(w - LEFT))), { immediate: true })

const strips = computed(() => {
  const list = (props.strip?.channels ?? []).flatMap(s => {
    const c = props.channels.find(x => x.id === s.id)
    return c
      ? [{ c, name: channelName(c), t: props.strip!.times[s.time]!, lo: allShown(c, s.min), hi: allShown(c, s.max) }]
      : []
  })
  if (!props.overlaid) return list.map(s => ({ key: String(s.c.id), unit: unitOf(s.c), series: [s] }))
  const units = [...new Set(list.map(s => unitOf(s.c)))]
  return units.map(unit => ({ key: `unit-${unit}`, unit, series: list.filter(s => unitOf(s.c) === unit) }))
})
const height = computed(() =>
  Math.max(64, Math.min(220, Math.floor(props.room / Math.max(1, strips.value.length + (props.derived ? 1 : 0))))),
)
const ticks = computed(() => niceTicks(props.view.from, props.view.to, Math.max(3, width.value / 120)))
const xOf = (t: number) => LEFT + ((t - props.view.from) / (props.view.to - props.view.from)) * (width.value - LEFT)
const tOf = (x: number) =>
  props.view.from + (Math.max(0, x - LEFT) / (width.value - LEFT)) * (props.view.to - props.view.from)

let held: { x: number; from: number; to: number; selecting: boolean } | null = null
function press(e: PointerEvent): void {
  ;(e.currentTarget as HTMLElement).setPointerCapture(e.pointerId)
  held = { x: e.clientX - plot.value!.getBoundingClientRect().left, ...props.view, selecting: !e.shiftKey }
  if (held.selecting) emit('select', null, false)
}
function move(e: PointerEvent): void {
  const x = e.clientX - plot.value!.getBoundingClientRect().left
  emit('cursor', x >= LEFT ? tOf(x) : null)
  if (!held) return
  if (held.selecting) {
    if (Math.abs(x - held.x) > 3) emit('select', [tOf(Math.min(x, held.x)), tOf(Math.max(x, held.x))], false)
  } else {
    const shift = ((held.x - x) / (width.value - LEFT)) * (held.to - held.from)
    emit('show', held.from + shift, held.to + shift)
  }
}
function release(): void {
  held = null
  if (props.selection) emit('select', props.selection, true)
}
function wheel(e: WheelEvent): void {
  const span = props.view.to - props.view.from
  const step = Math.sign(e.deltaY || e.deltaX) * 0.1 * span
  if (e.shiftKey) emit('show', props.view.from + step, props.view.to + step)
  else emit('zoom', e.deltaY > 0 ? 1.25 : 0.8, tOf(e.clientX - plot.value!.getBoundingClientRect().left))
}

/** What stands at the cursor. */
function reading({ t, lo, hi }: { t: number[]; lo: (number | null)[]; hi: (number | null)[] }): string {
  if (props.cursor === null || t.length === 0) return ''
  let i = t.findIndex(v => v >= props.cursor!)
  if (i < 0) i = t.length - 1
  if (i > 0 && props.cursor - t[i - 1]! < t[i]! - props.cursor) i--
  const [least, most] = [lo[i] ?? null, hi[i] ?? null]
  return least === most ? formatNumber(least, 5) : `${formatNumber(least, 4)} … ${formatNumber(most, 4)}`
}
const inView = computed(() => props.events.filter(e => e.t >= props.view.from && e.t <= props.view.to))
/** As many words as have room. */
const labelled = computed(() => inView.value.filter((e, i, all) => i === 0 || xOf(e.t) - xOf(all[i - 1]!.t) > 54))
</script>

<template>
  <div
    ref="plot"
    class="cursor-crosshair select-none"
    tabindex="0"
    role="application"
    aria-label="Strips over time: drag to select, Shift and drag to move, wheel or + and − to zoom, arrows to move"
    @pointerdown="press"
    @pointermove="move"
    @pointerup="release"
    @pointerleave="emit('cursor', null)"
    @wheel.prevent="wheel"
    @dblclick="emit('all')"
  >
    <svg
      v-if="width > 0 && (steps.length > 0 || inView.length > 0)"
      class="block w-full"
      height="15"
      aria-hidden="true"
    >
      <template v-for="(s, i) in steps" :key="`s${i}`">
        <text
          v-if="xOf(s.to) - xOf(s.from) > 12 && xOf((s.from + s.to) / 2) > LEFT && xOf((s.from + s.to) / 2) < width"
          :x="xOf((s.from + s.to) / 2)"
          y="11"
          text-anchor="middle"
          font-size="10"
          fill="var(--quiet)"
        >
          {{ i + 1 }}
        </text>
      </template>
      <template v-if="steps.length === 0">
        <text v-for="(e, i) in labelled" :key="`e${i}`" :x="xOf(e.t)" y="11" font-size="10" fill="var(--quiet)">
          {{ e.kind }}
        </text>
      </template>
    </svg>
    <div v-if="derived" class="relative mb-1">
      <p class="pointer-events-none absolute left-[4.6rem] top-0 z-10 rounded bg-panel/80 px-1 text-xs">
        <b class="font-semibold">being derived</b>{{ ' ' }}
        <span class="text-quiet">{{ derived.unit === '1' ? '' : derived.unit }}</span>
      </p>
      <StripCanvas
        :series="[{ name: 'derived', t: derived.t, lo: derived.min, hi: derived.max }]"
        :from="view.from"
        :to="view.to"
        :unit="derived.unit"
        :height="height"
        :cursor="cursor"
        :selection="selection"
        :flags="[]"
        :events="[]"
        :steps="steps"
        label="The channel being derived, over time"
      />
    </div>
    <div v-for="s in strips" :key="s.key" class="relative mb-1">
      <p
        :class="[
          'pointer-events-none absolute left-[4.6rem] top-0 z-10',
          'max-w-[80%] truncate rounded bg-panel/80 px-1 text-xs',
        ]"
      >
        <span v-for="(one, i) in s.series" :key="one.c.id"
          ><template v-if="i > 0">&ensp;</template
          ><svg v-if="s.series.length > 1" viewBox="0 0 26 6" class="mr-1 inline h-1.5 w-6" aria-hidden="true">
            <path
              d="M0 3h26"
              :stroke="`var(--${stripLook(i).colour})`"
              stroke-width="2"
              :stroke-dasharray="stripLook(i).dash.join(' ') || 'none'"
            /></svg
          ><b class="font-semibold">{{ one.name }}</b
          ><template v-if="cursor !== null">&ensp;{{ reading(one) }}</template></span
        >{{ ' ' }}
        <span class="text-quiet">{{ s.unit }}</span>
      </p>
      <StripCanvas
        :series="s.series"
        :from="view.from"
        :to="view.to"
        :unit="s.unit"
        :height="height"
        :cursor="cursor"
        :selection="selection"
        :flags="flags"
        :events="inView.map(e => e.t)"
        :steps="steps"
        :label="s.series.map(x => x.name).join(', ') + ' over time'"
      />
    </div>
    <svg v-if="width > 0" class="block w-full" height="34" aria-hidden="true">
      <g v-for="v in ticks.values" :key="v">
        <line :x1="xOf(v)" :x2="xOf(v)" y1="0" y2="5" stroke="var(--quiet)" />
        <text :x="xOf(v)" y="16" text-anchor="middle" font-size="11" fill="var(--quiet)">
          {{ tickText(v, ticks.step) }}
        </text>
      </g>
      <text :x="(width + LEFT) / 2" y="31" text-anchor="middle" font-size="11" font-weight="600" fill="var(--ink)">
        {{ cursor === null ? 'Time [s]' : `Time [s], cursor at ${tickText(cursor, ticks.step / 100)}` }}
      </text>
    </svg>
  </div>
</template>
