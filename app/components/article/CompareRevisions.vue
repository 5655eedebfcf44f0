<script setup lang="ts">
import { stepBetween, type Kind } from '@hypomet/core'
import type { PropertyRow } from '~/composables/article/useFactors'
import type { ArticleView, RevisionView } from '~/types/api'

/** Any two revisions: property by property, result by result. */
const props = defineProps<{ article: ArticleView; properties: PropertyRow[]; system: 'metric' | 'imperial' }>()
const from = defineModel<number | null>('from', { required: true })
const to = defineModel<number | null>('to', { required: true })
const units = useUnits(() => props.system)
const index = (id: number | null) => props.article.revisions.findIndex(r => r.id === id)
const pair = computed(() => [index(from.value), index(to.value)] as const)
const differing = computed(() =>
  pair.value.some(i => i < 0)
    ? []
    : props.properties
        .map(p => ({ ...p, a: p.cells[pair.value[0]]!, b: p.cells[pair.value[1]]! }))
        .filter(p => p.a.value !== p.b.value),
)
const resultOf = (r: RevisionView | undefined, key: string) =>
  r?.tests.findLast(t => t.results?.[key])?.results?.[key] ?? null
const results = computed(() =>
  Object.entries(props.article.resultTypes).flatMap(([key, type]) => {
    const [a, b] = pair.value.map(i => props.article.revisions[i])
    const [before, after] = [resultOf(a, key), resultOf(b, key)]
    if (!a || !b || (!before && !after)) return []
    const step = stepBetween(
      { id: a.id, label: a.label, parentId: null, factors: {}, result: before },
      { id: b.id, label: b.label, parentId: null, factors: {}, result: after },
    )
    return [{ key, label: type.label, kind: type.kind as Kind, before, after, ...step }]
  }),
)
function change(a: number | string | null, b: number | string | null): string {
  if (typeof a !== 'number' || typeof b !== 'number' || a === 0) return ''
  return `${b >= a ? '+' : '−'}${Math.abs(100 * (b / a - 1)).toFixed(1)} %`
}
const moved = { yes: 'significant difference', no: 'within its uncertainty', open: 'open: a bound, or no uncertainty' }
</script>

<template>
  <section class="panel" aria-label="Compare two revisions">
    <div class="mb-1 flex items-center gap-2">
      <h2>Compare</h2>
      <select v-model="from" class="field w-24" aria-label="Compare revision">
        <option v-for="r in article.revisions" :key="r.id" :value="r.id">{{ r.label }}</option></select
      ><span class="text-quiet">with</span>
      <select v-model="to" class="field w-24" aria-label="With revision">
        <option v-for="r in article.revisions" :key="r.id" :value="r.id">{{ r.label }}</option>
      </select>
    </div>
    <p v-if="pair.some(i => i < 0) || from === to" class="text-sm text-quiet">Choose two revisions.</p>
    <template v-else>
      <table class="data">
        <thead>
          <tr>
            <th>Property</th>
            <th class="number">{{ article.revisions[pair[0]]!.label }}</th>
            <th class="number">{{ article.revisions[pair[1]]!.label }}</th>
            <th class="number">Change</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in differing" :key="p.key">
            <td>{{ p.title }}</td>
            <td class="number">{{ p.a.text }}</td>
            <td class="number font-semibold">{{ p.b.text }}</td>
            <td class="number">{{ change(p.a.value, p.b.value) }}</td>
          </tr>
          <tr v-if="differing.length === 0">
            <td colspan="4" class="text-quiet">No property differs.</td>
          </tr>
        </tbody>
      </table>
      <table v-if="results.length > 0" class="data mt-2">
        <thead>
          <tr>
            <th>Result</th>
            <th class="number">{{ article.revisions[pair[0]]!.label }}</th>
            <th class="number">{{ article.revisions[pair[1]]!.label }}</th>
            <th class="number">Difference</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in results" :key="r.key">
            <td>{{ r.label }}</td>
            <td class="number whitespace-nowrap">{{ units.result(r.before ?? undefined, r.kind) }}</td>
            <td class="number whitespace-nowrap font-semibold">{{ units.result(r.after ?? undefined, r.kind) }}</td>
            <td class="number whitespace-nowrap">
              <template v-if="r.effect !== null"
                >{{ r.effect > 0 ? '+' : '' }}{{ units.difference(r.effect, r.kind, r.U)
                }}<span :class="['block text-xs', r.moved === 'yes' ? 'font-semibold' : 'text-quiet']">{{
                  r.moved ? moved[r.moved] : ''
                }}</span></template
              ><span v-else class="text-quiet">–</span>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else class="mt-2 text-sm text-quiet">No results yet.</p>
    </template>
  </section>
</template>
