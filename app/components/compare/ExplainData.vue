<script setup lang="ts">
import {
  fromUnit,
  HypometError,
  inUnit,
  isHypometError,
  numberOf,
  preferredUnit,
  styleOf,
  unknownsOf,
  wayOut,
  whyNoNumber,
  type Axis,
  type Explanation,
  type Explanations,
  type Figure,
  type UnitPreference,
} from '@hypomet/core'
import type { ExplainAsk, ExplainHeard } from '~/workers/explain.worker'
import type { ComparedCurve } from '~/composables/compare/comparedCurves'
import { useWorkerCalls } from '~/composables/shared/useWorkerCalls'

/**
 * Explanations of one measured curve – models with unknowns, tables of responses, predicted curves – fitted and ranked.
 */
const props = defineProps<{
  curves: readonly ComparedCurve[]
  axes: { x: Axis; y: Axis }
  predicted: readonly { name: string; x: readonly number[]; y: readonly number[] }[]
  prefer: UnitPreference
}>()
interface Written {
  name: string
  kind: 'expression' | 'responses'
  expression: string
  starts: Record<string, string>
  table: string
  parameter: string
}
const blank = (name: string, expression: string): Written => ({
  name,
  kind: 'expression',
  expression,
  starts: {},
  table: '',
  parameter: 'k',
})
const written = ref<Written[]>([blank('Straight', 'a*x'), blank('Softening', 'a*x - b*x^3')])
const withPredicted = ref(true)
const chosen = ref('')
const curve = computed(() => props.curves.find(c => c.key === chosen.value) ?? props.curves[0] ?? null)
const [unitX, unitY] = [
  computed(() => preferredUnit(props.axes.x.kind, { prefer: props.prefer })),
  computed(() => preferredUnit(props.axes.y.kind, { prefer: props.prefer })),
]
const toX = (v: number) => inUnit(v, props.axes.x.kind, unitX.value)
const toY = (v: number) => inUnit(v, props.axes.y.kind, unitY.value)
/** In the units shown, so that what is typed is of the size that is read. */
const data = computed(() =>
  (c => ({ x: c.x.map(toX), y: c.y.map(toY) }))(wayOut(curve.value?.series ?? { x: [], y: [] })),
)

const share = ref<number | null>(null)
const found = shallowRef<Explanations | null>(null)
const problem = shallowRef<HypometError | null>(null)
const { ask, stop } = useWorkerCalls<Omit<ExplainAsk, 'id'>, ExplainHeard>(
  () => new Worker(new URL('../../workers/explain.worker.ts', import.meta.url), { type: 'module' }),
  'The fit broke off; this is a fault of Hypomet.',
)

function unknowns(w: Written): string[] {
  try {
    return w.kind === 'expression' ? unknownsOf(w.expression) : []
  } catch {
    return []
  }
}
/** Where a fit begins: at 1 where nobody says it. */
function startOf(text: string, name: string, i: number): number {
  const why = text.trim() === '' ? '' : whyNoNumber(text, props.prefer.numbers)
  if (why) throw new HypometError('not-a-number', `${name}: ${why}`, { path: `models.${i}.parameters` })
  return numberOf(text, props.prefer.numbers) || 1
}
function asExplanation(w: Written, i: number): Explanation {
  if (w.kind === 'expression')
    return {
      name: w.name,
      kind: 'expression',
      expression: w.expression,
      parameters: unknowns(w).map(name => ({ name, start: startOf(w.starts[name] ?? '', name, i) })),
    }
  const cells = w.table
    .trim()
    .split(/\r?\n/)
    .map(line => line.trim().split(/[\t;]|\s+/))
  const style = styleOf(cells.flat()) ?? props.prefer.numbers
  // The cell above the column of x does not count.
  const rows = cells.map((row, r) => row.map((c, k) => (r === 0 && k === 0 ? 0 : numberOf(c, style))))
  const [head, ...body] = rows
  if (!head || body.length < 2 || rows.flat().some(v => !Number.isFinite(v)))
    throw new HypometError(
      'setting-type',
      'A table of responses has the parameter’s values in its first row, behind a cell that does not count, and ' +
        'below them x and the responses.',
      { path: `models.${i}.table` },
    )
  return {
    name: w.name,
    kind: 'responses',
    parameter: w.parameter,
    values: head.slice(1),
    x: body.map(r => r[0]!),
    y: head.slice(1).map((_, k) => body.map(r => r[k + 1]!)),
  }
}
async function run(): Promise<void> {
  share.value = 0
  problem.value = null
  try {
    const explanations = [
      ...written.value.map(asExplanation),
      ...(withPredicted.value
        ? props.predicted.map(p => ({ name: p.name, kind: 'curve' as const, x: p.x.map(toX), y: p.y.map(toY) }))
        : []),
    ]
    const heard = await ask(
      {
        data: JSON.parse(JSON.stringify(data.value)) as ExplainAsk['data'],
        explanations: JSON.parse(JSON.stringify(explanations)) as Explanation[],
      },
      {
        progress: s => {
          share.value = s
        },
      },
    )
    if ('found' in heard) found.value = heard.found
  } catch (e) {
    if (!isHypometError(e)) throw e
    found.value = null
    problem.value = e
  } finally {
    share.value = null
  }
}
const ranked = computed(() =>
  found.value
    ? [
        ...found.value.ranking,
        ...found.value.models.map((_, i) => i).filter(i => !found.value!.ranking.includes(i)),
      ].map(i => found.value!.models[i]!)
    : [],
)
const number = (v: number) => Number(v.toPrecision(4)).toString()
const separator = computed(() => {
  const s = found.value?.separator
  if (!s || !found.value || found.value.ranking.length < 2) return ''
  return (
    `A reading at ${number(s.x)} ${unitX.value}${s.isBeyond ? ', beyond what was tested,' : ''} would part ` +
    `the best two most: they differ there by ${number(s.difference)} ${unitY.value}, ` +
    `${s.scatters >= 100 ? 'far more than' : `${s.scatters.toFixed(1)} times`} what scatters around ` +
    `them.${s.isBeyond ? ' Whether it may be loaded so far is for the plan to say.' : ''}`
  )
})
const figure = computed<Figure | null>(() => {
  if (!found.value || !curve.value) return null
  return {
    ...props.axes,
    lines: [],
    series: [
      {
        name: 'Measured',
        style: 'measured',
        x: data.value.x.map(v => fromUnit(v, props.axes.x.kind, unitX.value)),
        y: data.value.y.map(v => fromUnit(v, props.axes.y.kind, unitY.value)),
      },
      ...ranked.value.slice(0, 5).map((m, i) => ({
        name: m.name,
        style: 'fit' as const,
        of: i,
        x: data.value.x.map(v => fromUnit(v, props.axes.x.kind, unitX.value)),
        y: m.prediction.map(v => fromUnit(v, props.axes.y.kind, unitY.value)),
      })),
    ],
  }
})
const fitted = ({ name, value, u }: { name: string; value: number; u: number | null }) =>
  `${name} = ${number(value)}${u === null ? '' : ` ± ${Number((2 * u).toPrecision(2))}`}`
</script>

<template>
  <section class="panel space-y-2" data-explain>
    <div class="flex flex-wrap items-center justify-between gap-2">
      <h2>Why is it so? Explanations, fitted and ranked</h2>
      <label class="flex items-center gap-1.5 text-sm text-quiet"
        >Of the curve<select
          class="field w-auto py-0.5"
          aria-label="Of the curve"
          :value="curve?.key"
          @change="chosen = ($event.target as HTMLSelectElement).value"
        >
          <option v-for="c in curves" :key="c.key" :value="c.key">{{ c.name }}</option>
        </select></label
      >
    </div>
    <p class="text-xs text-quiet">
      A model in x ({{ axes.x.label.toLowerCase() }}, {{ unitX }}) for {{ axes.y.label.toLowerCase() }} ({{ unitY }}),
      with unknowns of any name; or a table of responses worked out elsewhere for some values of one parameter.
    </p>
    <ul class="space-y-2">
      <li v-for="(w, i) in written" :key="i" class="grid grid-cols-[10rem_9rem_minmax(0,1fr)_auto] items-start gap-2">
        <input v-model="w.name" class="field" :aria-label="`Name of explanation ${i + 1}`" />
        <select v-model="w.kind" class="field" :aria-label="`Kind of explanation ${i + 1}`">
          <option value="expression">model in x</option>
          <option value="responses">table of responses</option>
        </select>
        <div v-if="w.kind === 'expression'" class="flex flex-wrap items-center gap-2">
          <input
            v-model="w.expression"
            class="field w-64 font-mono"
            :aria-label="`Model of explanation ${i + 1}`"
          /><label v-for="u in unknowns(w)" :key="u" class="flex items-center gap-1 text-sm"
            >{{ u }} from<input
              class="field w-20"
              :aria-label="`Start of ${u} in explanation ${i + 1}`"
              :value="w.starts[u] ?? '1'"
              @input="w.starts[u] = ($event.target as HTMLInputElement).value"
          /></label>
        </div>
        <div v-else class="flex gap-2">
          <input v-model="w.parameter" class="field w-24" :aria-label="`Parameter of explanation ${i + 1}`" /><textarea
            v-model="w.table"
            class="field font-mono text-xs"
            rows="3"
            :aria-label="`Table of explanation ${i + 1}`"
            placeholder="x    1.0  1.5  2.0&#10;0    0    0    0&#10;10   4.1  3.2  2.6"
          />
        </div>
        <button type="button" class="button" :aria-label="`Remove explanation ${i + 1}`" @click="written.splice(i, 1)">
          ×
        </button>
      </li>
    </ul>
    <div class="flex flex-wrap items-center gap-3">
      <button type="button" class="button" @click="written.push(blank(`Explanation ${written.length + 1}`, 'a + b*x'))">
        Add one
      </button>
      <label v-if="predicted.length > 0" class="flex items-center gap-1.5 text-sm"
        ><input v-model="withPredicted" type="checkbox" />with {{ predicted.length }} predicted
        {{ predicted.length === 1 ? 'curve' : 'curves' }} as they stand</label
      >
      <button type="button" class="button-main" :disabled="share !== null || !curve || data.x.length < 3" @click="run">
        Fit and rank
      </button>
      <template v-if="share !== null"
        ><progress :value="share" max="1" class="h-2 w-40" aria-label="Progress of the fits" /><button
          type="button"
          class="button"
          @click="stop"
        >
          Stop
        </button></template
      >
    </div>
    <ProblemNote :problem="problem" />
    <template v-if="found">
      <p class="font-semibold" data-verdict-words>{{ found.verdict }}</p>
      <p class="text-sm text-quiet">{{ separator }}</p>
      <div class="grid grid-cols-[minmax(0,3fr)_minmax(0,2fr)] gap-3">
        <table class="data self-start">
          <thead>
            <tr>
              <th>Explanation</th>
              <th>Unknowns</th>
              <th class="number">Residual</th>
              <th class="number">ΔAICc</th>
              <th class="number">Weight</th>
            </tr>
          </thead>
          <tbody>
            <template v-for="m in ranked" :key="m.name"
              ><tr>
                <td class="font-medium">{{ m.name }}</td>
                <td class="text-xs tabular-nums">
                  {{ m.parameters.map(fitted).join(', ') || '–'
                  }}<span v-if="m.correlation.length > 0" class="block text-quiet">{{
                    m.correlation.map(c => `r(${c.a}, ${c.b}) = ${c.r.toFixed(3)}`).join(', ')
                  }}</span>
                </td>
                <td class="number">{{ number(m.residualSd) }} {{ unitY }}</td>
                <td class="number">{{ m.delta === null ? '–' : m.delta.toFixed(1) }}</td>
                <td class="number">
                  {{ m.weight === null ? '–' : m.weight < 0.001 ? '< 0.001' : m.weight.toFixed(3) }}
                </td>
              </tr>
              <tr v-for="d in m.doubts" :key="d">
                <td colspan="5" class="text-xs text-open">{{ d }}</td>
              </tr></template
            >
          </tbody>
        </table>
        <FigureChart v-if="figure" :figure="figure" :prefer="prefer" name="explanations" height="240px" />
      </div>
    </template>
  </section>
</template>
