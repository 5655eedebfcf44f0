<script setup lang="ts">
import { expandedBeside, type Comparator, type Result, type Verdict } from '@hypomet/core'

/**
 * Where a result meets a limit: the value as a tick with its ±U as a whisker, the limit as a wall. A bound is an
 * arrow, an interval a bracket. Reads without colour: pass stands clear, undecided is hatched across the wall, fail
 * is notched beyond it.
 */
const props = defineProps<{
  label: string
  limit: number
  comparator: Comparator
  result: Pick<Result, 'value' | 'bound' | 'u' | 'k'> | null
  verdict: Verdict
  predicted?: { value: number; u: number; k: number } | null
  /** There is no verdict to tell. */
  untested?: boolean
  /** Where the rail begins, SI: zero, unless the scale has another. */
  origin?: number | undefined
  /** How numbers of this quantity are written. */
  show: (si: number) => string
}>()

const WIDTH = 400
const HEIGHT = 24
const MID = 13
const id = useId()

const U = computed(() => (props.result ? expandedBeside(props.result) : 0))
const from = computed(() => props.origin ?? 0)
const span = computed(() => {
  const value = props.result?.value ?? 0
  const interval = typeof props.result?.bound === 'object' ? props.result.bound.interval[1] : 0
  return 1.3 * (Math.max(props.limit, value + U.value, props.predicted?.value ?? 0, interval) - from.value)
})
const x = (v: number) => Math.max(1, Math.min(WIDTH - 1, ((v - from.value) / span.value) * WIDTH))
const wall = computed(() => x(props.limit))
const barred = computed(() =>
  props.comparator === 'atMost' ? { x: wall.value, width: WIDTH - wall.value } : { x: 0, width: wall.value },
)
const ink = computed(() => ({ pass: 'var(--pass)', undecided: 'var(--open)', fail: 'var(--fail)' })[props.verdict])
const interval = computed(() => (typeof props.result?.bound === 'object' ? props.result.bound.interval : null))
const arrow = computed(() => (props.result?.bound === 'atLeast' ? 1 : props.result?.bound === 'atMost' ? -1 : 0))

const described = computed(() => {
  const { result, comparator, limit, verdict, label } = props
  const side = comparator === 'atMost' ? 'at most' : 'at least'
  if (!result || result.value === null) {
    const predicted = props.predicted ? `, ${props.show(props.predicted.value)} predicted` : ''
    return `${label}: no value, limit ${side} ${props.show(limit)}${props.untested ? predicted : `, ${verdict}`}`
  }
  const bound = result.bound === 'atLeast' ? 'at least ' : result.bound === 'atMost' ? 'at most ' : ''
  const whisker = U.value > 0 ? ` plus or minus ${props.show(U.value)}` : ''
  return `${label}: ${bound}${props.show(result.value)}${whisker}, limit ${side} ${props.show(limit)}, ${verdict}`
})
const whiskerAt = (from: number, to: number) => `M${from} ${MID} H${to} M${from} 9 v8 M${to} 9 v8`
</script>

<template>
  <svg
    :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
    preserveAspectRatio="none"
    class="h-6 w-full min-w-24 overflow-visible"
    role="img"
    :aria-label="described"
    :data-verdict="untested ? undefined : verdict"
  >
    <defs>
      <pattern :id="id + 'barred'" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="1" height="5" fill="var(--line)" />
      </pattern>
      <pattern :id="id + 'open'" width="4" height="4" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
        <rect width="1.6" height="4" :fill="ink" />
      </pattern>
    </defs>
    <rect x="0" y="5" :width="WIDTH" height="16" rx="2" fill="var(--sunk)" />
    <rect data-part="barred" :x="barred.x" y="5" :width="barred.width" height="16" :fill="`url(#${id}barred)`" />
    <line
      v-if="predicted"
      data-part="predicted"
      :x1="x(predicted.value)"
      :x2="x(predicted.value)"
      y1="3"
      y2="23"
      stroke="var(--predicted)"
      stroke-width="1.5"
      stroke-dasharray="2 2"
      vector-effect="non-scaling-stroke"
    />
    <template v-if="result && result.value !== null">
      <g
        v-if="arrow !== 0"
        data-part="bound"
        :stroke="ink"
        fill="none"
        stroke-width="2"
        vector-effect="non-scaling-stroke"
      >
        <path
          :d="`M${x(result.value)} ${MID} h${arrow * 26} m${-arrow * 6} -4 l${arrow * 6} 4 l${-arrow * 6} 4`"
          vector-effect="non-scaling-stroke"
        />
      </g>
      <path
        v-if="interval"
        data-part="interval"
        :d="`M${x(interval[0]) + 4} 6 h-4 v14 h4 M${x(interval[1]) - 4} 6 h4 v14 h-4`"
        :stroke="ink"
        fill="none"
        stroke-width="2"
        vector-effect="non-scaling-stroke"
      />
      <g v-if="U > 0" data-part="whisker">
        <rect
          v-if="verdict === 'undecided'"
          :x="x(result.value - U)"
          y="9"
          :width="Math.max(2, x(result.value + U) - x(result.value - U))"
          height="8"
          :fill="`url(#${id}open)`"
        />
        <path
          :d="whiskerAt(x(result.value - U), x(result.value + U))"
          :stroke="ink"
          fill="none"
          stroke-width="1.5"
          vector-effect="non-scaling-stroke"
        />
      </g>
      <line
        data-part="value"
        :x1="x(result.value)"
        :x2="x(result.value)"
        y1="4"
        y2="22"
        :stroke="ink"
        stroke-width="3"
        vector-effect="non-scaling-stroke"
      />
      <path v-if="verdict === 'fail'" data-part="notch" :d="`M${x(result.value) - 4} 3 l4 5 l4 -5 z`" :fill="ink" />
    </template>
    <line
      data-part="wall"
      :x1="wall"
      :x2="wall"
      y1="1"
      y2="24"
      stroke="var(--ink)"
      stroke-width="3"
      vector-effect="non-scaling-stroke"
    />
  </svg>
</template>
