<script setup lang="ts">
import { againstModel, families, resultsOf, wayOut, type Kind } from '@hypomet/core'
import type { Compared } from '~/types/api'
import { againstPrediction, modeWords, placeWords } from '~/composables/judge/judgeWords'
import { curvesOf } from '~/composables/compare/comparedCurves'

/** What was foretold against what came: curves by bias, scatter and scale, values by their bands. */
const props = defineProps<{ tests: readonly Compared[]; system: 'metric' | 'imperial' }>()
const units = useUnits(() => props.system)
type Foretold = Compared['predictions'][number]
/** The measured curve that a predicted one speaks of. */
function spokenOf(t: Compared, { config, quantity }: Foretold) {
  const drawn = curvesOf([t], quantity)
  if (config) return drawn.find(c => c.series.name.toLowerCase() === config.trim().toLowerCase()) ?? null
  return drawn.length === 1 || !families[t.family]?.configOf ? (drawn[0] ?? null) : null
}
/** What is held against nothing, because it speaks of another configuration or does not say of which. */
const apart = computed(() =>
  props.tests.flatMap(t =>
    t.predictions
      .filter(p => p.isOfAnother || (p.curve && !spokenOf(t, p) && curvesOf([t], p.quantity).length > 0))
      .map(p => ({
        key: `${t.id}-${p.id}`,
        words: p.config ? `${p.source} speaks of “${p.config}”` : `${p.source} does not say of which configuration`,
      })),
  ),
)
const curves = computed(() =>
  props.tests.flatMap(t =>
    t.predictions.flatMap(p => {
      const own = p.curve ? spokenOf(t, p) : null
      const axes = t.figures[p.quantity]
      const measured = own ? wayOut(own.series) : null
      const found = p.curve && measured && measured.x.length > 1 ? againstModel(p.curve, measured) : null
      return found && axes
        ? [
            {
              key: `${t.id}-${p.id}`,
              test: `${t.revision} · ${t.title}`,
              source: p.source,
              x: axes.x.kind,
              y: axes.y.kind,
              ...found,
            },
          ]
        : []
    }),
  ),
)
const places = computed(() =>
  props.tests.flatMap(t =>
    t.places.map((p, i) => ({
      ...p,
      key: `${t.id}-${i}`,
      test: `${t.revision} · ${t.title}`,
      failed: [t.failed.place, t.failed.mode].filter(Boolean).join(', ') || 'not said',
    })),
  ),
)
const values = computed(() =>
  props.tests.flatMap(t =>
    t.predictions.flatMap(p => {
      const type = resultsOf(t.family, t.own)[p.quantity]
      const result = t.results[p.quantity]
      return p.value === null || p.isOfAnother || !type || !result
        ? []
        : [
            {
              key: `${t.id}-${p.id}`,
              test: `${t.revision} · ${t.title}`,
              source: p.source,
              label: type.label,
              kind: type.kind as Kind,
              result,
              p: { value: p.value, u: p.u, k: p.k, bound: p.bound },
            },
          ]
    }),
  ),
)
const percent = (v: number) => `${(100 * v).toFixed(1)} %`
const hasSets = computed(() => props.tests.some(t => families[t.family]))
</script>

<template>
  <section
    v-if="hasSets && curves.length + values.length + apart.length + places.length > 0"
    class="panel"
    data-predictions
  >
    <h2 class="mb-1">Predicted and measured</h2>
    <table v-if="curves.length > 0" class="data mb-2">
      <thead>
        <tr>
          <th>Test</th>
          <th>Curve by</th>
          <th class="number">Bias</th>
          <th class="number">rms error</th>
          <th class="number">of the range</th>
          <th class="number">R²</th>
          <th class="number">Scale factor</th>
          <th class="number">Largest error</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in curves" :key="c.key">
          <td>{{ c.test }}</td>
          <td class="text-predicted">⋯ {{ c.source }}</td>
          <td class="number">{{ units.difference(c.bias, c.y) }}</td>
          <td class="number">{{ units.difference(c.rmse, c.y) }}</td>
          <td class="number">{{ percent(c.nrmse) }}</td>
          <td class="number">{{ c.r2.toFixed(4) }}</td>
          <td class="number">{{ c.scale.toFixed(3) }}</td>
          <td class="number whitespace-nowrap">
            {{ units.difference(c.maxDeviation, c.y) }} at {{ units.show(c.maxDeviationAt, c.x, { digits: 3 }) }}
          </td>
        </tr>
      </tbody>
    </table>
    <table v-if="values.length > 0" class="data">
      <thead>
        <tr>
          <th>Test</th>
          <th>Result</th>
          <th>Predicted by</th>
          <th class="number">Predicted</th>
          <th class="number">Measured</th>
          <th>Against its band</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="v in values" :key="v.key">
          <td>{{ v.test }}</td>
          <td>{{ v.label }}</td>
          <td class="text-predicted">⋯ {{ v.source }}</td>
          <td class="number">{{ units.result(v.p, v.kind) }}</td>
          <td class="number">{{ units.result(v.result, v.kind) }}</td>
          <td>{{ againstPrediction(v.result, v.p) }}</td>
        </tr>
      </tbody>
    </table>
    <table v-if="places.length > 0" class="data mt-2" data-places>
      <thead>
        <tr>
          <th>Test</th>
          <th>Failed</th>
          <th>Foretold by</th>
          <th>Where</th>
          <th>How</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in places" :key="p.key">
          <td>{{ p.test }}</td>
          <td>{{ p.failed }}</td>
          <td class="text-predicted">⋯ {{ p.by }}</td>
          <td>{{ [p.place || '–', placeWords(p.isPlace)].filter(Boolean).join(': ') }}</td>
          <td>{{ [p.mode || '–', modeWords(p.isMode)].filter(Boolean).join(': ') }}</td>
        </tr>
      </tbody>
    </table>
    <p v-for="a in apart" :key="a.key" class="mt-1 text-xs text-quiet">
      {{ a.words }}: held against nothing that was measured here.
    </p>
  </section>
</template>
