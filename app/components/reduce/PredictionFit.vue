<script setup lang="ts">
import { isHypometError, runCalc, type Figure, type Series, type UnitPreference } from '@hypomet/core'

/** How what was measured lies against each predicted curve of a figure, on the way up. */
const props = defineProps<{ figure: Figure; predicted: Series[]; prefer: UnitPreference }>()
const units = useUnits(() => 'metric')
const show = (si: number, kind = props.figure.y.kind) => units.show(si, kind, { digits: 3, prefer: props.prefer })
/** A difference: the zero of a scale does not count. */
const apart = (si: number) =>
  units.show(si, props.figure.y.kind, {
    digits: 3,
    prefer: props.prefer,
    difference: true,
  })

type Point = readonly [number, number]
const pointsOf = (s: Figure['series'][number]): Point[] =>
  s.x.flatMap((x, i) => (x === null || s.y[i] == null ? [] : [[x, s.y[i]!] as const]))
/** Up to the largest value, where the curve has not come back yet. */
function wayUp(points: Point[]): Point[] {
  const top = points.reduce((best, p, i) => (p[1] > points[best]![1] ? i : best), 0)
  return points.slice(0, top + 1)
}
const rising = (points: Point[]) =>
  points.toSorted((a, b) => a[0] - b[0]).filter((p, i, list) => i === 0 || p[0] > list[i - 1]![0])

const names = (list: Series[]) => list.map(s => s.name).join(', ')
/** The measured curve that a prediction speaks of; or why there is none to hold it against. */
function spokenOf(measured: Series[], { config = '' }: Series): Series | string {
  const said = config.trim().toLowerCase()
  const found = measured.filter(s => said === '' || s.name.toLowerCase() === said)
  if (found.length === 1) return found[0]!
  return said === ''
    ? `several were measured (${names(measured)}): say in the predictions which of them it speaks of`
    : `it speaks of “${config}”, which is not among what was measured (${names(measured)})`
}

const fits = computed(() => {
  const measured = props.figure.series.filter(s => s.style === 'measured')
  if (measured.length === 0) return []
  return props.predicted.flatMap(s => {
    const found = spokenOf(measured, s)
    if (typeof found === 'string') return [{ name: s.name, words: found }]
    const test = wayUp(pointsOf(found))
    const model = rising(pointsOf(s))
    const inside = test.filter(p => p[0] >= model[0]![0] && p[0] <= model.at(-1)![0])
    if (model.length < 2 || inside.length < 3) return []
    try {
      const split = (list: Point[]) => ({ x: list.map(p => p[0]), y: list.map(p => p[1]) })
      const r = runCalc({ calc: 'correlate', settings: { model: split(model), test: split(inside) } }).results
      const of = (key: string) => r[key]!.value
      return [
        {
          name: s.name,
          words:
            `bias ${apart(of('bias')!)}, rms ${apart(of('rmse')!)}, R² ${of('r2')?.toFixed(3) ?? '–'}, ` +
            `measured ${of('scale')?.toFixed(3) ?? '–'} times predicted; largest difference ` +
            `${apart(of('maxDeviation')!)} at ${show(of('maxDeviationAt')!, props.figure.x.kind)}`,
        },
      ]
    } catch (e) {
      if (!isHypometError(e)) throw e
      return []
    }
  })
})
</script>

<template>
  <p v-for="f in fits" :key="f.name" class="mt-1 text-xs text-quiet">
    <span class="font-medium text-ink">{{ f.name }}:</span> {{ f.words }}.
  </p>
</template>
