<script setup lang="ts">
import { CalendarPlus } from '@lucide/vue'
import { registerWords } from '~/composables/register/registerWords'

const slug = useRoute().params['slug'] as string
const api = useApi()
const undo = useUndoStore()
const {
  data: campaign,
  error,
  refresh,
} = await useAsyncData(`campaign-${slug}`, () => api.get(`/api/campaigns/${slug}`))
if (error.value) throw createError({ statusCode: 404, statusMessage: 'There is no such campaign.' })
watch(
  () => undo.changes,
  () => refresh(),
)
useTrail().value = [{ name: campaign.value!.title, to: `/campaigns/${slug}` }, { name: 'Schedule' }]
useHead({ title: () => `Schedule · ${campaign.value?.title} · Hypomet` })
useNumbersOf(() => campaign.value)
const book = await useRegister('task', campaign.value!.id)
const today = localDay()
const { output, problem, placed, months } = useSchedule(
  () => book.rows.value,
  () => campaign.value!.frame,
)

const refused = shallowRef<Awaited<ReturnType<typeof book.change>>>(null)
async function change(id: number, values: Record<string, unknown>): Promise<void> {
  const row = book.rows.value.find(r => r.id === id)
  if (row) refused.value = await book.change(row, values)
}
function lengthen(id: number, days: number): void {
  const row = book.rows.value.find(r => r.id === id)!
  void change(id, {
    days,
    ...(row['high'] !== null && Number(row['high']) < days ? { high: days } : {}),
    ...(row['low'] !== null && Number(row['low']) > days ? { low: days } : {}),
  })
}
const value = (key: string) => output.value?.results[key]?.value ?? null
const ends = computed(
  () =>
    placed.value
      .map(p => p.finishDate)
      .sort()
      .at(-1) ?? null,
)
const days = (n: number) => `${Math.abs(n).toFixed(1)} working days`
const money = (n: number) => moneyText(n, campaign.value!.currency)
const costs = computed(() => campaign.value!.money)
const byTest = computed(() =>
  campaign
    .value!.articles.flatMap(a =>
      a.revisions.flatMap(r =>
        r.tests.map(t => ({
          id: t.id,
          name: `${a.name} ${r.label}: ${t.title}`,
          ran: t.ranOn !== null,
          cost: costs.value.byTest.find(c => c.testId === t.id)?.cost ?? null,
        })),
      ),
    )
    .filter(t => t.cost !== null),
)
const dearest = computed(() => Math.max(1, ...months.value.map(m => m.cost)))
const chain = computed(() => placed.value.filter(p => p.critical).map(p => p.name))
</script>

<template>
  <div v-if="campaign" class="flex flex-1 flex-col">
    <CampaignNav :slug="slug" current="schedule" />
    <main class="mx-auto w-full max-w-[1500px] flex-1 space-y-3 p-4">
      <section v-if="book.rows.value.length > 0" class="panel grid grid-cols-[1fr_19rem] gap-6">
        <div class="min-w-0">
          <div class="mb-1 flex items-baseline justify-between gap-3">
            <h1>Schedule</h1>
            <a class="button text-sm" :href="`/api/campaigns/${slug}/calendar`" download
              ><CalendarPlus class="size-3.5" aria-hidden="true" />Calendar file</a
            >
          </div>
          <TaskTimeline
            v-if="placed.length > 0"
            :tasks="book.rows.value"
            :placed="placed"
            :due="campaign.due"
            :today="today"
            @book="(id, on) => change(id, { on })"
            @lengthen="lengthen"
          />
          <p v-if="chain.length > 0" class="mt-1 text-xs text-quiet">
            What sets the end: {{ chain.join(' → ') }}. ⚑ booked.
          </p>
        </div>
        <div class="space-y-3 text-sm" aria-live="polite">
          <div>
            <h2>Dates</h2>
            <p>
              Ends <strong>{{ ends ? day(ends) : '–' }}</strong><template v-if="campaign.due"
                >, due {{ day(campaign.due) }}</template
              >
            </p>
            <p v-if="value('float') !== null" :class="value('float')! < 0 ? 'font-semibold text-fail' : ''">
              {{ days(value('float')!) }} {{ value('float')! < 0 ? 'too late' : 'of float' }}
            </p>
            <p v-if="value('probability') !== null">
              {{ Math.round(100 * value('probability')!) }} % likely by the due date
            </p>
            <p v-else class="text-quiet">No due date is set.</p>
          </div>
          <div>
            <h2>Money</h2>
            <p>
              {{ money(costs.spent + costs.committed) }} in all<template v-if="campaign.budget !== null">
                of {{ money(campaign.budget) }}</template
              >: {{ money(costs.spent) }} spent, {{ money(costs.committed) }} to come
            </p>
            <p v-if="(costs.unfunded ?? 0) > 0" class="font-semibold text-fail">
              {{ money(costs.unfunded!) }} unfunded
            </p>
            <p class="text-xs text-quiet">
              A test costs what its tasks cost, else what is written at it<template v-if="costs.unpriced > 0"
                >; {{ costs.unpriced }} have no cost yet</template
              >. Tasks by month:
            </p>
            <ul class="mt-1 space-y-0.5">
              <li v-for="m in months" :key="m.month" class="grid grid-cols-[4rem_1fr_auto] items-center gap-2 text-xs">
                <span>{{ m.month }}</span><span
                  class="h-2 rounded bg-accent"
                  :style="{ width: `${(100 * m.cost) / dearest}%` }"
                /><span>{{ money(m.cost) }}</span>
              </li>
            </ul>
          </div>
          <ul v-if="output && output.warnings.length > 0" class="space-y-1 text-open" role="status">
            <li v-for="w in output.warnings" :key="w.message">{{ w.message }}</li>
          </ul>
          <ProblemNote :problem="problem ?? refused" />
        </div>
      </section>
      <details v-if="byTest.length > 0" class="panel text-sm">
        <summary class="cursor-pointer font-semibold">Cost by test</summary>
        <table class="data mt-1">
          <thead>
            <tr>
              <th>Test</th>
              <th>State</th>
              <th class="number">Cost</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="t in byTest" :key="t.id">
              <td>
                <NuxtLink :to="`/tests/${t.id}/plan`">{{ t.name }}</NuxtLink>
              </td>
              <td>{{ t.ran ? 'run' : 'to come' }}</td>
              <td class="number">{{ money(t.cost!) }}</td>
            </tr>
            <tr v-if="costs.aside > 0">
              <td class="text-quiet">Tasks of no test</td>
              <td>to come</td>
              <td class="number">{{ money(costs.aside) }}</td>
            </tr>
          </tbody>
        </table>
      </details>
      <RegisterBook id="task" :campaign-id="campaign.id" title="Tasks" :about="registerWords['task']!" />
    </main>
  </div>
</template>
