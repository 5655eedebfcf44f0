<script setup lang="ts">
import { ChevronDown, ChevronRight } from '@lucide/vue'
import type { ArticleView, CampaignPage, LimitRow } from '~/types/api'

/** Articles by limits: each cell a small rail with the standing verdict, and the test it came from. */
const props = defineProps<{ campaign: CampaignPage; openIds: number[] }>()
const emit = defineEmits<{ toggle: [id: number] }>()
const units = useUnits(() => props.campaign.system)
/** A limit's numbers are read in the unit that it was written in. */
const unitOf = (l: LimitRow): string | undefined => (typeof l.entered === 'object' ? l.entered.unit : undefined)

const RANK = ['fail', 'reopened', 'undecided', 'pass']
/**
 * The newest judged revision that the limit holds for, by the worst of its tests; what is predicted of the newest
 * revision until there is one.
 */
function standing(a: ArticleView, l: LimitRow) {
  const revisions = a.revisions.filter(r => r.limitIds.includes(l.id))
  const judged =
    revisions
      .map(r =>
        r.tests
          .filter(t => t.verdicts.some(v => v.limitId === l.id && v.coveredBy === null) || t.reopened.includes(l.id))
          .map(test => ({ revision: r, test })),
      )
      .findLast(list => list.length > 0) ?? []
  const rank = ({ test: t }: (typeof judged)[number]) =>
    RANK.indexOf(t.verdicts.find(v => v.limitId === l.id)?.verdict ?? 'reopened')
  // Of those that stand alike the newest.
  const tested = judged.toSorted((x, y) => rank(x) - rank(y) || y.test.id - x.test.id)[0]
  const predicted = revisions
    .flatMap(r => r.predictions.filter(p => p.quantity === l.quantity && p.value !== null && p.testId === null))
    .at(-1)
  const stands = tested?.test.verdicts.find(v => v.limitId === l.id)
  const verdict = stands?.verdict ?? null
  return {
    limit: l,
    kind: a.resultTypes[l.quantity]!.kind,
    tested,
    of: judged.length,
    verdict,
    why:
      tested && !stands ? 'The limit was changed since it was judged.' : verdict === 'undecided' ? stands!.reason : '',
    result: tested?.test.results?.[l.quantity] ?? null,
    predicted: predicted ? { value: predicted.value!, u: predicted.u ?? 0, k: predicted.k } : null,
  }
}
const rows = computed(() =>
  props.campaign.articles.map(a => ({ article: a, cells: a.limits.map(l => standing(a, l)) })),
)
</script>

<template>
  <table class="data" aria-label="Limits and where each article stands">
    <tbody>
      <tr v-for="row in rows" :key="row.article.id" class="align-top">
        <td class="w-56 align-top!">
          <button
            type="button"
            class="flex items-start gap-1 text-left"
            :aria-expanded="openIds.includes(row.article.id)"
            :aria-label="`Revisions of ${row.article.name}`"
            @click="emit('toggle', row.article.id)"
          >
            <component
              :is="openIds.includes(row.article.id) ? ChevronDown : ChevronRight"
              class="mt-0.5 size-4 shrink-0 text-quiet"
              aria-hidden="true"
            />
          </button>
          <NuxtLink :to="`/articles/${row.article.id}`" class="-mt-5 ml-5 block font-semibold">{{
            row.article.name
          }}</NuxtLink>
          <p class="ml-5 text-xs text-quiet">
            {{ row.article.familyTitle }} ·
            {{
              row.article.revisions.length > 3
                ? `${row.article.revisions[0]!.label} … ${row.article.revisions.at(-1)!.label}`
                : row.article.revisions.map(r => r.label).join(' → ')
            }}
          </p>
        </td>
        <td>
          <div v-if="row.cells.length > 0" class="grid grid-cols-3 gap-x-4 gap-y-1 2xl:grid-cols-4">
            <div v-for="c in row.cells" :key="c.limit.id" :data-limit="c.limit.name" class="min-w-0">
              <p class="flex items-baseline justify-between gap-2 text-xs">
                <span tabindex="0" class="truncate font-medium" :data-hint="`${c.limit.name}: ${c.limit.source}`">{{
                  c.limit.name
                }}</span><span class="shrink-0 text-quiet">{{ units.limit(c.limit, c.kind) }}</span>
              </p>
              <LimitRail
                :origin="railOrigin(c.kind)"
                :label="c.limit.name"
                :limit="c.limit.value"
                :comparator="c.limit.comparator"
                :result="c.verdict ? c.result : null"
                :verdict="c.verdict ?? 'undecided'"
                :predicted="c.verdict ? null : c.predicted"
                :show="v => units.show(v, c.kind, unitOf(c.limit) ? { unit: unitOf(c.limit)! } : {})"
                :untested="!c.verdict"
              />
              <p class="flex items-baseline justify-between gap-2 text-xs">
                <template v-if="c.tested"
                  ><NuxtLink :to="`/tests/${c.tested.test.id}/judge`" class="truncate"
                    >{{ c.tested.revision.label }}{{ c.of > 1 ? `, worst of ${c.of}` : '' }}:
                    {{ units.result(c.result ?? undefined, c.kind, unitOf(c.limit)) }}</NuxtLink
                  ><VerdictMark v-if="c.verdict" :verdict="c.verdict" /><span v-else class="font-semibold text-open"
                    >Reopened</span
                  ></template
                >
                <span v-else class="text-quiet"
                  >not tested<template v-if="c.predicted">
                    ·
                    <span class="text-predicted"
                      >⋯
                      {{
                        units.show(c.predicted.value, c.kind, {
                          digits: 3,
                          ...(unitOf(c.limit) ? { unit: unitOf(c.limit)! } : {}),
                        })
                      }}
                      predicted</span
                    ></template
                  ></span
                >
              </p>
              <p v-if="c.why" class="text-2xs text-quiet">{{ c.why }}</p>
            </div>
          </div>
          <p v-else class="text-xs text-quiet">No limits yet: without one there is nothing to judge.</p>
          <!-- As wide as its cell, however many revisions there are: a table would give way. Positioned, or
               hidden labels would lie outside. -->
          <div
            v-if="openIds.includes(row.article.id)"
            class="relative w-0 min-w-full overflow-x-auto"
            tabindex="0"
            role="region"
            :aria-label="`Revisions and tests of ${row.article.name}`"
          >
            <slot name="thread" :article="row.article" />
          </div>
        </td>
      </tr>
    </tbody>
  </table>
</template>
