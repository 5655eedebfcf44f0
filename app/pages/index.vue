<script setup lang="ts">
import { Plus } from '@lucide/vue'
import type { CampaignList } from '~/types/api'

useTrail().value = [{ name: 'Bench' }]
useHead({ title: 'Bench · Hypomet' })
const api = useApi()
const { data: campaigns } = await useAsyncData('campaigns', () => api.get<CampaignList>('/api/campaigns'))
const creating = ref(false)

const rows = computed(() => (campaigns.value ?? []).flatMap(c => c.articles.flatMap(a => a.revisions.flatMap(r => r.tests.map(t => {
  const next = t.stages.find(s => s.state !== 'done')
  return { campaign: c, article: a, revision: r, test: t, next, undecided: t.verdicts.filter(v => v.verdict === 'undecided'), failed: t.verdicts.filter(v => v.verdict === 'fail') }
})))))
const limitName = (row: (typeof rows.value)[number], limitId: number) => row.article.limits.find(l => l.id === limitId)?.name ?? ''
const doing: Record<string, string> = { plan: 'Plan it', ready: 'Work through the checklist', run: 'Run it or import readings', reduce: 'Reduce the readings', judge: 'Judge it', change: 'Choose the change' }
</script>

<template>
  <main class="mx-auto w-full max-w-6xl flex-1 space-y-4 p-4">
    <div class="flex items-center justify-between"><h1>Bench</h1><button type="button" class="button-main" @click="creating = true"><Plus class="size-4" aria-hidden="true" />New campaign</button></div>
    <EmptyState v-if="!campaigns?.length" title="Nothing on the bench yet" text="A campaign holds the articles under test, their limits and their tests. Start one, or stop Hypomet and run “npm run demo” to see a filled one." action="New campaign" @act="creating = true" />
    <template v-else>
      <section class="panel">
        <h2 class="mb-1">Not settled</h2>
        <table v-if="rows.some(r => r.undecided.length + r.failed.length > 0)" class="data">
          <thead><tr><th>Limit</th><th>Standing</th><th>Why</th><th>Settle it in</th></tr></thead>
          <tbody>
            <template v-for="row in rows" :key="row.test.id">
              <tr v-for="v in [...row.failed, ...row.undecided]" :key="v.limitId">
                <td class="font-medium">{{ row.article.name }} {{ row.revision.label }}: {{ limitName(row, v.limitId) }}</td>
                <td><VerdictMark :verdict="v.verdict" /></td>
                <td class="text-quiet">{{ v.reason }}</td>
                <td><NuxtLink :to="`/tests/${row.test.id}/${v.verdict === 'fail' ? 'change' : 'judge'}`">{{ v.verdict === 'fail' ? 'Change' : 'Judge' }}</NuxtLink></td>
              </tr>
            </template>
          </tbody>
        </table>
        <p v-else class="text-sm text-quiet">Every judged limit passes.</p>
      </section>
      <section class="panel">
        <h2 class="mb-1">Next step of every test</h2>
        <table class="data">
          <thead><tr><th>Test</th><th>Stage</th><th>State</th><th>Campaign</th><th>Due</th></tr></thead>
          <tbody>
            <tr v-for="row in rows" :key="row.test.id">
              <td><NuxtLink :to="`/tests/${row.test.id}/${row.next?.stage ?? 'judge'}`" class="font-medium">{{ row.article.name }} {{ row.revision.label }}: {{ row.test.title }}</NuxtLink></td>
              <td>{{ row.next ? doing[row.next.stage] : 'All six stages done' }}</td>
              <td class="text-quiet">{{ row.next?.words ?? '' }}</td>
              <td><NuxtLink :to="`/campaigns/${row.campaign.slug}`">{{ row.campaign.title }}</NuxtLink></td>
              <td class="whitespace-nowrap">{{ row.campaign.due ? day(row.campaign.due) : '–' }}</td>
            </tr>
            <tr v-if="rows.length === 0"><td colspan="5" class="text-quiet">No tests yet. <NuxtLink v-for="c in campaigns" :key="c.id" :to="`/campaigns/${c.slug}`" class="mr-2">Open {{ c.title }}</NuxtLink></td></tr>
          </tbody>
        </table>
      </section>
    </template>
    <CampaignDialog :open="creating" @close="creating = false" />
  </main>
</template>
