<script setup lang="ts">
import { Download } from '@lucide/vue'
import {
  columnFormatter,
  handoverRemarks,
  operatingTables,
  underCause,
  writeCsv,
  type OperatingCell,
  type QuantityInput,
} from '@hypomet/core'
import type { Specimen } from '~/types/api'

/** What the tested revision may be asked to do, as tables to hand over. */
const { page, family, units } = useTest()
const reductions = useReductionStore()
const specimens = shallowRef<Specimen[]>([])
onMounted(async () => {
  if (page.value.reductions.length > 0) specimens.value = await reductions.specimens(page.value.test.id)
})
const { judged } = useVerdicts()
/** Weights that may hang, as typed; kept with the test on this machine. */
const typed = useLocalStorage<QuantityInput[]>(`hypomet-weights-${page.value.test.id}`, [], { initOnMounted: true })
const takesWeights = computed(() => family.value.id === 'static')
const weights = computed(() => typed.value.map(q => units.si(q, 'force')))
const remarks = computed(() => {
  const j = page.value.judgement
  const failed = judged.value.filter(x => x.decision.verdict === 'fail').map(x => x.limit.name)
  return handoverRemarks({
    validity: j?.validity ?? 'valid',
    cause: j?.cause ?? 'none',
    mode: j?.mode ?? '',
    place: j?.place ?? '',
    note: j?.note ?? '',
    failed,
  })
})
const tables = computed(() => {
  const [kept] = page.value.reductions
  if (!kept || page.value.judgement?.validity === 'invalid') return []
  const input = {
    results: underCause(kept.output.results, page.value.judgement?.cause ?? null, family.value.results),
    labels: family.value.results,
    limits: page.value.limits.map(l => ({
      ...l,
      verdict: judged.value.find(j => j.limit.id === l.id)?.decision.verdict ?? null,
    })),
    weights: weights.value,
    settings: kept.settings,
    specimens: specimens.value
      .filter(s => !s.invalid)
      .map(s => ({ isOwn: s.revision === page.value.revision.label, measure: s.measure, results: s.results })),
    measure: family.value.set?.measure ?? null,
  }
  return operatingTables(input, family.value.stages.handover)
})
/** A column's numbers in one unit. */
const shown = computed(() =>
  tables.value.map(t => {
    const columns = t.columns.map((_, k) => {
      const cells = t.rows.map(r => r[k]!).filter((c): c is Exclude<OperatingCell, string> => typeof c !== 'string')
      const write = cells[0]
        ? columnFormatter(
            cells.map(c => c.value),
            cells[0].kind,
            { prefer: units.prefer.value, digits: 3 },
          )
        : () => ''
      return (c: OperatingCell) => (typeof c === 'string' ? c : write(c.value))
    })
    return t.rows.map(r => r.map((c, k) => columns[k]!(c)))
  }),
)
function save(index: number): void {
  const t = tables.value[index]!
  const before = remarks.value.map(r => [r])
  saveFile(
    `${t.title.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-')}.csv`,
    writeCsv([...before, t.columns, ...shown.value[index]!]),
  )
}
</script>

<template>
  <section v-if="tables.length > 0" class="panel" data-operating>
    <h2 class="mb-1">Operating limits of revision {{ page.revision.label }}, to hand over</h2>
    <p class="mb-2 text-xs text-caution">
      Numbers that follow from this test, not a release for service: follow your site’s rules, local codes and licensed
      practice; this is no substitute for them.
    </p>
    <ul v-if="remarks.length > 0" class="mb-2 rounded-md bg-caution-ground px-2 py-1 text-sm text-caution" data-remarks>
      <li v-for="r in remarks" :key="r">{{ r }}</li>
    </ul>
    <QuantitiesField
      v-if="takesWeights"
      class="mb-2 max-w-md"
      :model-value="typed"
      kind="force"
      :prefer="units.prefer.value"
      label="Weights that hang, for the load factor allowed"
      :or-one="false"
      @update:model-value="typed = ($event as QuantityInput[] | null) ?? []"
    />
    <div class="grid gap-4 xl:grid-cols-2">
      <div v-for="(t, i) in tables" :key="t.title" class="min-w-0" :data-table="t.title">
        <div class="flex items-center justify-between gap-2">
          <h3 class="font-semibold">{{ t.title }}</h3>
          <button type="button" class="button px-1.5 py-0.5 text-xs" :aria-label="`${t.title} as CSV`" @click="save(i)">
            <Download class="size-3.5" aria-hidden="true" />CSV
          </button>
        </div>
        <p class="text-xs text-quiet">{{ t.sentence }}</p>
        <div class="max-h-64 overflow-auto" tabindex="0" role="region" :aria-label="t.title">
          <table class="data">
            <thead>
              <tr>
                <th v-for="(c, k) in t.columns" :key="c" :class="typeof t.rows[0]?.[k] === 'string' ? '' : 'number'">
                  {{ c }}
                </th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(r, k) in t.rows" :key="k">
                <td v-for="(c, m) in r" :key="m" :class="typeof c === 'string' ? '' : 'number'">
                  {{ shown[i]![k]![m] }}
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </div>
    </div>
  </section>
</template>
