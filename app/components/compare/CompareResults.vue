<script setup lang="ts">
import { differenceOf, families, repeatability, resultsOf, spreadOf, unlikeZeros, type Kind } from '@hypomet/core'
import type { Compared } from '~/types/api'

/**
 * Results beside one another: each difference from the first against what both leave open, and how alike specimens
 * repeat.
 */
const props = defineProps<{ tests: readonly Compared[]; baseline: number; system: 'metric' | 'imperial' }>()
const units = useUnits(() => props.system)
const base = computed(() => props.tests.find(t => t.id === props.baseline) ?? props.tests[0]!)
/** Those of the kind of test, and what the articles have of their own. */
const declared = computed(() =>
  resultsOf(
    base.value.family,
    props.tests.filter(t => t.family === base.value.family).flatMap(t => t.own),
  ),
)
/** What specimens are compared by. */
const isOfSet = (key: string) =>
  (families[base.value.family]?.set?.results ?? []).includes(key) ||
  props.tests.some(t => t.own.some(o => o.name === key))
const rows = computed(() =>
  Object.entries(declared.value)
    .filter(([key]) => props.tests.filter(t => t.results[key]?.value != null).length > 0)
    .map(([key, r]) => ({
      key,
      label: r.label,
      kind: r.kind as Kind,
      cells: props.tests.map(t => ({
        t,
        result: t.results[key],
        ...differenceOf(base.value.results[key], t.results[key]),
      })),
    })),
)
const moved = { yes: 'significant difference', no: 'within its uncertainty', open: 'open: a bound, or no uncertainty' }
const groups = computed(() =>
  [...new Set(props.tests.map(t => t.revisionId))]
    .map(id => props.tests.filter(t => t.revisionId === id && t.validity !== 'invalid'))
    .filter(g => g.length > 1),
)
const spreads = computed(() =>
  groups.value.flatMap(g =>
    rows.value.flatMap(r => {
      const values = g.flatMap(t =>
        (v => (v?.value == null ? [] : [{ value: v.value, bound: v.bound }]))(t.results[r.key]),
      )
      const s = spreadOf(values, { comparator: declared.value[r.key]?.limited })
      return s?.sd == null || !isOfSet(r.key)
        ? []
        : [
            {
              key: `${g[0]!.revisionId}${r.key}`,
              revision: `${g[0]!.article} ${g[0]!.revision}`,
              label: r.label,
              kind: r.kind,
              ...s,
              repeat: values.length === 2 ? repeatability(values[0]!.value, values[1]!.value) : null,
            },
          ]
    }),
  ),
)
const zeros = computed(() => unlikeZeros(props.tests.map(t => ({ name: `${t.revision} · ${t.title}`, zero: t.zero }))))
const percent = (v: number | null) => (v === null ? '–' : `${(100 * v).toFixed(1)} %`)
</script>

<template>
  <section class="panel" data-results>
    <h2 class="mb-1">{{ tests.length > 1 ? `Results, each against ${base.revision} · ${base.title}` : 'Results' }}</h2>
    <div class="overflow-x-auto" tabindex="0" role="region" aria-label="Results beside one another">
      <table class="data">
        <thead>
          <tr>
            <th>Result</th>
            <th v-for="t in tests" :key="t.id" class="number">
              <NuxtLink :to="`/tests/${t.id}/judge`">{{ t.revision }} · {{ t.title }}</NuxtLink>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in rows" :key="r.key">
            <td>{{ r.label }}</td>
            <td v-for="c in r.cells" :key="c.t.id" class="number whitespace-nowrap">
              <span class="font-semibold">{{ units.result(c.result, r.kind) }}</span><template
                v-if="c.t.id !== base.id && c.effect !== null"
                ><span class="block text-xs"
                  >{{ c.effect > 0 ? '+' : '' }}{{ units.difference(c.effect, r.kind, c.U) }}</span
                ><span :class="['block text-xs', c.moved === 'yes' ? 'font-semibold' : 'text-quiet']">{{
                  c.moved ? moved[c.moved] : ''
                }}</span></template
              >
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="zeros" class="mt-1 text-sm text-open" data-zeros>{{ zeros }}</p>
    <template v-if="spreads.length > 0">
      <h2 class="mb-1 mt-3">Specimens of one revision</h2>
      <table class="data">
        <thead>
          <tr>
            <th>Revision</th>
            <th>Result</th>
            <th class="number">n</th>
            <th class="number">Mean</th>
            <th class="number">s</th>
            <th class="number">s/mean</th>
            <th class="number">Two apart, of their mean</th>
            <th class="number">k (90 %, 95 %)</th>
            <th class="number">Basis</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in spreads" :key="s.key">
            <td>{{ s.revision }}</td>
            <td>{{ s.label }}</td>
            <td class="number">{{ s.n }}</td>
            <td class="number">{{ units.show(s.mean, s.kind, { digits: 4 }) }}</td>
            <td class="number">{{ units.difference(s.sd!, s.kind) }}</td>
            <td class="number">{{ percent(s.cv) }}</td>
            <td class="number">{{ percent(s.repeat) }}</td>
            <td class="number">{{ s.k?.toFixed(3) ?? '–' }}</td>
            <td class="number">{{ units.show(s.claim, s.kind, { digits: 3 }) }}</td>
          </tr>
        </tbody>
      </table>
      <p class="text-xs text-quiet">
        Two within a few per cent are encouraging, not a basis: the factor k of so few is large.
      </p>
    </template>
  </section>
</template>
