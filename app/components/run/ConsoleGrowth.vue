<script setup lang="ts">
import type { Figure } from '@hypomet/core'
import type { ConsoleView } from '~/composables/run/useConsole'
import type { LiveView } from '~/composables/run/useLiveRun'

/** Growth against growth over load: where an article runs towards an instability, its slope is the critical load. */
const props = defineProps<{ live: LiveView; console: ConsoleView }>()
const { units } = useTest()
const { view, labelOf } = props.console
const onset = computed(() => props.live.now.value?.onset ?? null)
const kind = computed(() => view.value.channels.find(c => c.role === onset.value?.role)?.kind ?? view.value.read.kind)
/** Growth over the load's share of the highest rung: as a length over a length it needs no new unit. */
const figure = computed<Figure>(() => {
  const { growth = [], overLoad = [], estimate = null } = onset.value ?? {}
  const x = overLoad.map(v => v * view.value.maxTarget)
  const share = (estimate?.critical ?? 0) / view.value.maxTarget
  const line = estimate && x.length > 1 ? [Math.min(...x), Math.max(...x)] : []
  const intercept = estimate ? growth.at(-1)! - share * x.at(-1)! : 0
  return {
    x: { label: 'Growth over share of the load', kind: kind.value },
    y: { label: labelOf(onset.value?.role ?? view.value.read.role), kind: kind.value },
    lines: [],
    series: [
      { name: 'Measured', style: 'points', x, y: growth },
      ...(line.length > 0
        ? [{ name: 'Slope: critical load', style: 'fit' as const, x: line, y: line.map(v => intercept + share * v) }]
        : []),
    ],
  }
})
const words = computed(() => {
  const e = onset.value?.estimate
  if (!e) return 'No instability in sight: it grows in proportion to the load, or there is too little load yet to tell.'
  return (
    `Heading for instability at ` +
    `${units.result({ value: e.critical, bound: 'exact', u: e.half / 2, k: 2 }, view.value.commanded.kind)}, by ` +
    `${e.n} points.`
  )
})
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col">
    <p class="text-sm" data-testid="onset">{{ words }}</p>
    <FigureChart
      :figure="figure"
      :prefer="units.prefer.value"
      name="growth"
      height="100%"
      live
      class="flex min-h-0 flex-1 flex-col [&>div:last-of-type]:min-h-0 [&>div:last-of-type]:flex-1"
    />
  </div>
</template>
