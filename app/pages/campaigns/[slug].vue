<script setup lang="ts">
import { Plus } from '@lucide/vue'
import type { QuantityInput } from '@hypomet/core'
import type { ArticleView, CampaignPage } from '~/types/api'

const slug = useRoute().params.slug as string
const api = useApi()
const { data: campaign, error, refresh } = await useAsyncData(`campaign-${slug}`, () => api.get<CampaignPage>(`/api/campaigns/${slug}`))
if (error.value) throw createError({ statusCode: 404, statusMessage: 'There is no such campaign.' })

const trail = useTrail()
trail.value = [{ name: campaign.value!.title }]
useHead({ title: () => `${campaign.value?.title} · Hypomet` })
const units = useUnits(() => campaign.value!.system)
const dialog = ref<'article' | 'revision' | 'limit' | 'test' | 'material' | null>(null)
const chosen = shallowRef<ArticleView | null>(null)
function open(kind: NonNullable<typeof dialog.value>, a: ArticleView | null): void {
  chosen.value = a
  dialog.value = kind
}

const thread = (a: ArticleView) => a.revisions.map(r => ({
  id: r.id, label: r.label, changed: r.changed, why: r.why, mass: r.mass === null ? 'not weighed' : units.show(r.mass, 'mass', { digits: 3 }),
  tests: r.tests.map(t => {
    const next = t.stages.find(s => s.state !== 'done')
    return { id: t.id, title: t.title, stage: next?.stage ?? 'judge', words: next ? `${next.stage}: ${next.words}` : 'all stages done', verdicts: t.verdicts.map(v => ({ name: a.limits.find(l => l.id === v.limitId)?.name ?? '', verdict: v.verdict })) }
  }),
}))

interface EnteredMaterial extends Record<'modulus' | 'strength' | 'shearStrength' | 'density', QuantityInput> {
  name: string
  leadTimeDays?: number
}
const materials = computed(() => campaign.value!.materials as EnteredMaterial[])

/** What the thread goes on with: the change that the newest judged test asks for. */
function nextOf(a: ArticleView): { words: string; to: string } | undefined {
  const test = a.revisions.at(-1)?.tests.findLast(t => t.verdicts.length > 0)
  const unmet = test?.verdicts.filter(v => v.verdict !== 'pass').length ?? 0
  return test ? { words: unmet > 0 ? `${unmet} of ${a.limits.length} limits not passed: choose the next revision` : 'Every limit passes: see what mass can come out', to: `/tests/${test.id}/change` } : undefined
}

/** The standing result of each revision for each limit: that of its newest judged test. */
const matrix = (a: ArticleView) => a.limits.map(limit => ({
  limit,
  kind: a.resultTypes[limit.quantity]!.kind,
  cells: a.revisions.map(r => {
    const test = r.tests.findLast(t => t.results !== null)
    return { revision: r, test, result: test?.results?.[limit.quantity] ?? null, verdict: test?.verdicts.find(v => v.limitId === limit.id) ?? null }
  }),
}))
const levels: Record<string, string> = { service: 'service', limit: 'limit', ultimate: 'ultimate', 'required-factor': 'required factor' }
</script>

<template>
  <main v-if="campaign" class="mx-auto w-full max-w-7xl flex-1 space-y-4 p-4">
    <header class="flex items-start justify-between gap-4">
      <div><h1>{{ campaign.title }}</h1><p class="text-quiet">{{ campaign.purpose }}</p></div>
      <div class="flex items-start gap-5"><dl class="flex gap-5 text-right text-sm">
        <div><dt class="text-xs text-quiet">Due</dt><dd class="font-semibold">{{ campaign.due ? day(campaign.due) : 'no date' }}</dd></div>
        <div><dt class="text-xs text-quiet">Decision rule</dt><dd class="font-semibold">{{ campaign.rule }}</dd></div>
      </dl><button type="button" class="button" @click="open('article', null)"><Plus class="size-4" aria-hidden="true" />Article</button></div>
    </header>
    <EmptyState v-if="campaign.articles.length === 0" title="No articles yet" text="An article is the hardware under test. It has revisions, limits, and tests on each revision." action="Add the first article" @act="open('article', null)" />
    <section v-for="a in campaign.articles" :id="`article-${a.id}`" :key="a.id" class="space-y-3">
      <div class="flex items-baseline gap-3">
        <p class="text-lg font-semibold">{{ a.name }}</p><p class="text-sm text-quiet">{{ a.familyTitle }} · {{ a.note }}</p>
        <div class="ml-auto flex gap-2"><button type="button" class="button text-sm" @click="open('revision', a)">New revision</button><button type="button" class="button text-sm" @click="open('test', a)">New test</button><button type="button" class="button text-sm" @click="open('limit', a)">New limit</button></div>
      </div>
      <RevisionThread :revisions="thread(a)" :next="nextOf(a)" />
      <div class="panel">
        <h2 class="mb-1">Limits, and where each revision stands</h2>
        <table v-if="a.limits.length > 0" class="data table-fixed">
          <thead><tr><th class="w-64">Limit</th><th v-for="r in a.revisions" :key="r.id">Revision {{ r.label }}</th></tr></thead>
          <tbody>
            <tr v-for="row in matrix(a)" :key="row.limit.id">
              <td><span class="font-medium">{{ row.limit.name }}</span><span class="block text-xs text-quiet">{{ row.limit.comparator === 'atMost' ? '≤' : '≥' }} {{ units.entered(row.limit.entered, row.kind) }} · {{ levels[row.limit.level] }}<template v-if="row.limit.source"> · {{ row.limit.source }}</template></span></td>
              <td v-for="c in row.cells" :key="c.revision.id">
                <template v-if="c.test && c.verdict">
                  <LimitRail :label="row.limit.name" :limit="row.limit.value" :comparator="row.limit.comparator" :result="c.result" :verdict="c.verdict.verdict" :show="v => units.show(v, row.kind)" />
                  <span class="flex items-center justify-between gap-2 text-xs"><NuxtLink :to="`/tests/${c.test.id}/judge`">{{ units.result(c.result ?? undefined, row.kind) }}</NuxtLink><VerdictMark :verdict="c.verdict.verdict" /></span>
                  <span v-if="c.verdict.verdict === 'undecided'" class="block text-xs text-quiet">{{ c.verdict.reason }}</span>
                </template>
                <span v-else class="text-xs text-quiet">{{ c.test ? 'not judged' : 'not tested' }}</span>
              </td>
            </tr>
          </tbody>
        </table>
        <p v-else class="text-sm text-quiet">No limits yet: without one there is nothing to judge.</p>
      </div>
    </section>
    <section v-if="campaign.articles.length > 0" class="panel">
      <div class="mb-1 flex items-center justify-between"><h2>Materials that candidates may be made of</h2><button type="button" class="button text-sm" @click="open('material', null)">New material</button></div>
      <table v-if="materials.length > 0" class="data">
        <thead><tr><th>Material</th><th class="number">Modulus</th><th class="number">Strength, bending</th><th class="number">Strength, shear</th><th class="number">Density</th><th class="number">Lead time</th></tr></thead>
        <tbody><tr v-for="m in materials" :key="m.name"><td class="font-medium">{{ m.name }}</td><td class="number">{{ units.entered(m.modulus, 'pressure') }}</td><td class="number">{{ units.entered(m.strength, 'pressure') }}</td><td class="number">{{ units.entered(m.shearStrength, 'pressure') }}</td><td class="number">{{ units.entered(m.density, 'density') }}</td><td class="number">{{ m.leadTimeDays ? `${m.leadTimeDays} d` : '–' }}</td></tr></tbody>
      </table>
      <p v-else class="text-sm text-quiet">None yet: candidates then keep the material of the tested revision.</p>
    </section>
    <MaterialDialog :open="dialog === 'material'" :slug="slug" :prefer="units.prefer.value" @close="dialog = null" @saved="refresh()" />
    <ArticleDialog :open="dialog === 'article' || dialog === 'revision'" :campaign-id="campaign.id" :prefer="units.prefer.value" :article="dialog === 'revision' && chosen ? { id: chosen.id, name: chosen.name, family: chosen.family, last: chosen.revisions.at(-1)! } : undefined" @close="dialog = null" @saved="refresh()" />
    <LimitDialog v-if="chosen" :open="dialog === 'limit'" :article-id="chosen.id" :results="chosen.resultTypes" :prefer="units.prefer.value" @close="dialog = null" @saved="refresh()" />
    <TestDialog v-if="chosen" :open="dialog === 'test'" :revisions="chosen.revisions" @close="dialog = null" />
  </main>
</template>
