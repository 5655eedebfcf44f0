<script setup lang="ts">
import {
  forecast,
  PREDICTION_METHODS,
  type Expectation,
  type ForecastRow,
  type Kind,
  type ViewedPlan,
} from '@hypomet/core'

/** What is expected, by whom, and whether this plan's sensors could tell pass from fail. */
const props = defineProps<{ viewed: ViewedPlan; fixed: boolean }>()
const emit = defineEmits<{ use: [role: string, sensorId: number] }>()
const { page, family, units, resultLabel, resultKind } = useTest()
const methodWords: Record<string, string> = Object.fromEntries(PREDICTION_METHODS.map(m => [m.value, m.label]))
const locked = computed(() => page.value.predictions.some(p => p.lockedAt && p.testId !== null))
const view = computed(() => props.viewed.view)
/** Every source beside the others; the plan's own calculation joins what stands until the first sample locks them. */
const predictions = computed(() => {
  const own = locked.value
    ? []
    : view.value.predictions.map(p => ({ ...p, k: 2, bound: 'exact' as const, source: view.value.predictedBy }))
  const all = [
    ...page.value.predictions.map(p => ({
      ...p,
      source:
        p.method === 'scaled' || p.method === 'calculation'
          ? p.source
          : `${methodWords[p.method] ?? p.method}: ${p.source}`,
    })),
    ...own,
  ]
  const sources = [...new Set(all.map(p => p.source))]
  const quantities = Object.keys(family.value.results).filter(q => all.some(p => p.quantity === q))
  return {
    all,
    sources,
    rows: quantities.map(quantity => ({
      quantity,
      cells: sources.map(s => all.find(p => p.quantity === quantity && p.source === s)),
    })),
  }
})
const failures = computed(() => [
  ...new Set(
    page.value.predictions
      .filter(p => p.place || p.mode)
      .map(p => `${p.source}: ${[p.mode, p.place].filter(Boolean).join(', ').toLowerCase()}`),
  ),
])
/** Of several expectations, the one that lies nearest to its limit is the one to decide. */
const rows = computed((): ForecastRow[] =>
  forecast(
    page.value.limits,
    page.value.limits.flatMap((l): Expectation[] => {
      const said = predictions.value.all
        .filter(p => p.quantity === l.quantity)
        .toSorted((a, b) => Math.abs(a.value - l.value) - Math.abs(b.value - l.value))[0]
      return said ? [{ quantity: said.quantity, value: said.value, source: said.source }] : []
    }),
    view.value.channels,
    page.value.sensors,
    props.viewed.budgetOf,
  ),
)
const channelLabel = (role: string) => view.value.channels.find(c => c.role === role)?.label ?? role
const show = (v: number | null, q: string) => units.show(v, resultKind(q), { digits: 3 })
const place = (x: number) => (x === 0 ? 'at the root' : `${units.show(x, 'length' satisfies Kind)} from the root`)
</script>

<template>
  <div class="grid grid-cols-[1fr_1.3fr] gap-4">
    <section class="min-w-0">
      <h2 class="mb-1">Prediction {{ locked ? '· locked' : '· locks at the first sample' }}</h2>
      <p v-if="predictions.rows.length === 0" class="text-sm text-quiet">Nobody has said yet what is expected.</p>
      <table v-else class="data">
        <thead>
          <tr>
            <th>Result</th>
            <th v-for="s in predictions.sources" :key="s" class="number">{{ s }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in predictions.rows" :key="r.quantity">
            <td>{{ resultLabel(r.quantity) }}</td>
            <td v-for="(p, i) in r.cells" :key="i" class="number whitespace-nowrap text-predicted">
              {{ units.result(p, resultKind(r.quantity)) }}
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="view.failure" class="mt-1 text-xs text-quiet">
        Predicted failure: {{ view.failure.mode }}, {{ place(view.failure.place) }}, at
        {{ units.show(view.failure.at, view.commanded.kind, { digits: 3 }) }}.
      </p>
      <ul v-if="failures.length > 0" class="text-xs text-predicted">
        <li v-for="f in failures" :key="f">⋯ {{ f }}</li>
      </ul>
      <p v-if="!locked" class="mt-1 text-xs">
        <NuxtLink :to="`/campaigns/${page.campaign.slug}/prediction`">Enter what others predict</NuxtLink>
      </p>
    </section>
    <section class="min-w-0">
      <h2 class="mb-1">Can this plan decide?</h2>
      <p v-if="rows.length === 0" class="text-sm text-quiet">The article has no limits yet.</p>
      <table v-else class="data">
        <thead>
          <tr>
            <th>Limit</th>
            <th class="number">Expected</th>
            <th class="number">Room to the limit</th>
            <th class="number">±U to come</th>
            <th>So</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in rows" :key="r.limit.id" :data-forecast="r.limit.name">
            <td>
              {{ r.limit.name }}
              <span class="text-xs text-quiet"
                >{{ r.limit.comparator === 'atMost' ? '≤' : '≥' }} {{ show(r.limit.value, r.limit.quantity) }}</span
              >
            </td>
            <td class="number text-predicted">
              {{ r.expected ? show(r.expected.value, r.limit.quantity) : '–'
              }}<span v-if="r.expected" class="block text-xs text-quiet">{{ r.expected.source }}</span>
            </td>
            <td class="number">{{ show(r.margin, r.limit.quantity) }}</td>
            <td class="number">{{ show(r.U, r.limit.quantity) }}</td>
            <td>
              <span v-if="r.decides === true" :class="r.margin! < 0 ? 'font-semibold text-fail' : 'text-pass'">{{
                r.margin! < 0 ? 'would show a fail as one' : 'can tell pass from fail'
              }}</span>
              <span v-else-if="r.decides === false" class="font-semibold text-fail"
                >cannot tell pass from fail{{ r.governing ? `: ${channelLabel(r.governing)} governs` : '' }}</span
              >
              <span v-else class="text-open">{{
                r.expected || r.U === null
                  ? 'needs its sensors'
                  : `needs a prediction; ±U is ${Math.round((100 * r.U) / Math.abs(r.limit.value))} % of the limit`
              }}</span>
              <span v-for="b in r.better" :key="b.role + b.sensorId" class="block text-sm"
                >{{ b.name }} can: ±{{ show(b.U, r.limit.quantity) }}
                <button
                  v-if="!fixed"
                  type="button"
                  class="button px-1.5 py-0 text-xs"
                  @click="emit('use', b.role, b.sensorId)"
                >
                  Use it
                </button></span
              >
              <span v-if="r.decides === false && r.better.length === 0" class="block text-xs text-quiet"
                >No sensor in the inventory would: the expectation lies that near to the limit.</span
              >
            </td>
          </tr>
        </tbody>
      </table>
    </section>
  </div>
</template>
