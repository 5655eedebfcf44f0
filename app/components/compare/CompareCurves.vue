<script setup lang="ts">
import { differenceCurve, type Axis, type Figure, type UnitPreference } from '@hypomet/core'
import { overlayOf, pairsOf, type ComparedCurve } from '~/composables/compare/comparedCurves'

/** Curves over one another, and each less the first, point by point: where it lost. */
const props = defineProps<{
  curves: readonly ComparedCurve[]
  baseline: string
  axes: { x: Axis; y: Axis }
  system: 'metric' | 'imperial'
  prefer: UnitPreference
  name: string
}>()
const units = useUnits(() => props.system)
const base = computed(() => props.curves.find(c => c.key === props.baseline) ?? props.curves[0] ?? null)
const differences = computed(() =>
  (base.value ? pairsOf(props.curves, base.value) : []).map(({ curve: c, against }) => ({
    c,
    against,
    d: differenceCurve(against.series, c.series),
  })),
)
/** What every curve is held against, by name where it is one. */
const subtracted = computed(() => {
  const all = new Set(differences.value.map(d => d.against))
  return all.size > 1 ? 'that of the first test' : (differences.value[0]?.against.name ?? '')
})
const drawn = computed<Figure>(() => ({
  // A difference may be below zero: never in decades.
  x: props.axes.x,
  y: {
    label: `${props.axes.y.label}, less ${subtracted.value}`,
    kind: props.axes.y.kind,
  },
  lines: [{ axis: 'y', value: 0, label: 'no difference' }],
  series: differences.value.flatMap(({ c, d }) =>
    d ? [{ name: c.name, style: 'measured' as const, of: props.curves.indexOf(c), x: d.x, y: d.difference }] : [],
  ),
}))
const x = (v: number) => units.show(v, props.axes.x.kind, { digits: 3 })
const y = (v: number) => units.difference(v, props.axes.y.kind)
const words = computed(() =>
  differences.value.map(({ c, d }) => {
    if (!d)
      return {
        name: c.name,
        text: 'does not overlap with the first: nothing can be compared point by point.',
        lost: false,
      }
    const share =
      d.meanShare === null ? '' : ` (${d.meanShare >= 0 ? '+' : '−'}${Math.abs(100 * d.meanShare).toFixed(1)} %)`
    return {
      name: c.name,
      lost: d.lost !== null,
      text:
        `mean ${d.mean >= 0 ? '+' : ''}${y(d.mean)}${share} from ${x(d.x[0]!)} to ${x(d.x.at(-1)!)}; ` +
        `${
          d.lost
            ? `lost most at ${x(d.lost.x)}, by ` +
              `${y(d.lost.by)}${d.below ? `; below it from ${x(d.below[0])} to ` + `${x(d.below[1])}` : ''}`
            : 'lost nowhere'
        }${d.gained ? `; gained most at ${x(d.gained.x)}, by ` + `${y(d.gained.by)}` : ''}.`,
    }
  }),
)
</script>

<template>
  <section class="panel" data-curves>
    <div class="grid grid-cols-2 gap-3">
      <FigureChart :figure="overlayOf(axes, curves)" :prefer="prefer" :name="name" height="300px" />
      <FigureChart
        v-if="drawn.series.length > 0"
        :figure="drawn"
        :prefer="prefer"
        :name="`${name}-difference`"
        height="300px"
      />
    </div>
    <ul class="mt-1 text-sm" data-differences>
      <li v-for="w in words" :key="w.name">
        <strong>{{ w.name }}</strong>: <span :class="w.lost ? '' : 'text-quiet'">{{ w.text }}</span>
      </li>
    </ul>
  </section>
</template>
