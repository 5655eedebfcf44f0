<script setup lang="ts">
import { CalendarClock, Gauge, Lightbulb, ListChecks, Plus, Radio, Scale } from '@lucide/vue'
import { daysBetween, formatQuantity, preferenceOf } from '@hypomet/core'

useTrail().value = [{ name: 'Bench' }]
useHead({ title: 'Bench · Hypomet' })
const api = useApi()
const undo = useUndoStore()
const { data: bench, refresh } = await useAsyncData('bench', () => api.get('/api/bench'))
watch(
  () => undo.changes,
  () => refresh(),
)
const creating = ref(false)
const doing: Record<string, string> = {
  plan: 'Plan it',
  ready: 'Work through the checklist',
  run: 'Run it or import readings',
  reduce: 'Reduce the readings',
  judge: 'Judge it',
  change: 'Choose the change',
}
const inDays = (iso: string): string => {
  const days = daysBetween(bench.value!.today, iso)
  return days < 0 ? `${-days} d late` : days === 0 ? 'today' : `in ${days} d`
}
const late = (iso: string) => iso < bench.value!.today
const several = computed(() => (bench.value?.campaigns.length ?? 0) > 1)
</script>

<template>
  <main v-if="bench" class="mx-auto w-full max-w-[1500px] flex-1 space-y-3 p-4">
    <div class="flex items-center justify-between">
      <h1>Bench</h1>
      <button type="button" class="button-main" @click="creating = true">
        <Plus class="size-4" aria-hidden="true" />New campaign
      </button>
    </div>
    <SampleComing v-if="bench.campaigns.length > 0" @there="refresh()" />
    <EmptyBench v-if="bench.campaigns.length === 0" @create="creating = true" />
    <div v-else class="grid grid-cols-[minmax(0,1fr)_26rem] items-start gap-3">
      <div class="space-y-3">
        <section v-if="bench.running.length > 0" class="panel border-accent">
          <h2 class="bench-head"><Radio class="size-4" aria-hidden="true" />Running</h2>
          <p v-for="r in bench.running" :key="r.testId" class="flex items-baseline justify-between gap-3 text-sm">
            <NuxtLink :to="`/tests/${r.testId}/run`" class="font-medium">{{ r.name }}</NuxtLink><span
              >{{ r.status === 'running' ? `rung ${r.rung} of ${r.rungs}` : 'interrupted'
              }}<template v-if="r.next">
                · next {{ formatQuantity(r.next.target, r.next.kind, { prefer: preferenceOf(r), digits: 3 }) }},
                {{ formatQuantity(r.next.expected, r.next.reads, { prefer: preferenceOf(r), digits: 3 }) }}
                expected</template
              ></span
            >
          </p>
        </section>
        <section class="panel">
          <h2 class="bench-head"><Scale class="size-4" aria-hidden="true" />Open verdicts</h2>
          <table v-if="bench.unsettled.length > 0" class="data">
            <thead>
              <tr>
                <th>Limit</th>
                <th>Verdict</th>
                <th>Why</th>
                <th>Test</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="u in bench.unsettled" :key="u.key">
                <td class="font-medium">{{ u.what }}</td>
                <td>
                  <span v-if="u.verdict === 'reopened'" class="font-semibold text-open">Reopened</span
                  ><VerdictMark v-else :verdict="u.verdict" />
                </td>
                <td class="text-quiet">{{ u.why }}</td>
                <td class="text-sm">
                  <template v-for="(t, i) in u.tests" :key="t.testId"
                    >{{ i > 0 ? ', ' : ''
                    }}<NuxtLink :to="`/tests/${t.testId}/${t.stage}`" :data-hint="t.name"
                      >{{ t.label
                      }}{{
                        u.tests.filter(x => x.label === t.label).length > 1
                          ? ` (${u.tests.filter(x => x.label === t.label).indexOf(t) + 1})`
                          : ''
                      }}</NuxtLink
                    ></template
                  >
                </td>
              </tr>
            </tbody>
          </table>
          <p v-else class="text-sm text-quiet">Every judged limit passes.</p>
        </section>
        <section v-if="bench.lessons.length > 0" class="panel">
          <h2 class="bench-head"><Lightbulb class="size-4" aria-hidden="true" />Lessons that fire today</h2>
          <ul class="divide-y divide-line text-sm">
            <li v-for="l in bench.lessons" :key="l.id" class="py-1">
              <NuxtLink :to="`/tests/${l.testId}/ready`" class="font-medium">{{ l.title }}</NuxtLink>{{ ' ' }}
              <span class="text-xs text-quiet">on {{ l.name }}, by {{ l.reasons.join(', ') }}</span
              ><span class="block">{{ l.instead }}</span>
            </li>
          </ul>
        </section>
        <section class="panel">
          <h2 class="bench-head"><ListChecks class="size-4" aria-hidden="true" />Next step of every test</h2>
          <table class="data">
            <thead>
              <tr>
                <th>Test</th>
                <th>Next</th>
                <th>State</th>
                <th v-if="several">Campaign</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="t in bench.next" :key="t.testId">
                <td>
                  <NuxtLink :to="`/tests/${t.testId}/${t.next?.stage ?? 'judge'}`" class="font-medium">{{
                    t.name
                  }}</NuxtLink>
                </td>
                <td>{{ t.next ? doing[t.next.stage] : 'All six stages done' }}</td>
                <td class="text-quiet">{{ t.next?.words ?? '' }}</td>
                <td v-if="several">
                  <NuxtLink :to="`/campaigns/${t.campaign.slug}`">{{ t.campaign.title }}</NuxtLink>
                </td>
              </tr>
              <tr v-if="bench.next.length === 0">
                <td colspan="4" class="text-quiet">No tests yet.</td>
              </tr>
            </tbody>
          </table>
        </section>
      </div>
      <div class="space-y-3">
        <section class="panel">
          <h2 class="mb-1">Campaigns</h2>
          <p v-for="c in bench.campaigns" :key="c.id">
            <NuxtLink :to="`/campaigns/${c.slug}`" class="font-medium">{{ c.title }}</NuxtLink>
          </p>
        </section>
        <section class="panel">
          <h2 class="bench-head"><CalendarClock class="size-4" aria-hidden="true" />Due</h2>
          <table v-if="bench.due.length > 0" class="data">
            <tbody>
              <tr v-for="d in bench.due" :key="d.key">
                <td :class="['whitespace-nowrap', late(d.on) ? 'font-semibold text-fail' : '']">{{ inDays(d.on) }}</td>
                <td>
                  <NuxtLink :to="d.to">{{ d.what }}</NuxtLink><span class="block text-xs text-quiet"
                    >{{ d.kind }}, {{ day(d.on) }}</span
                  >
                </td>
              </tr>
            </tbody>
          </table>
          <p v-else class="text-sm text-quiet">Nothing in the next weeks.</p>
        </section>
        <section v-if="bench.blocked.length > 0" class="panel">
          <h2 class="bench-head"><ListChecks class="size-4" aria-hidden="true" />Blocked</h2>
          <p v-for="b in bench.blocked" :key="b.testId" class="text-sm">
            <NuxtLink :to="`/tests/${b.testId}/ready`">{{ b.name }}</NuxtLink>{{ ' ' }}
            <span class="text-open">{{ b.words }}</span>
          </p>
        </section>
        <section class="panel">
          <h2 class="bench-head"><Gauge class="size-4" aria-hidden="true" />Sensors to see to</h2>
          <ul v-if="bench.sensors.length > 0" class="space-y-1 text-sm">
            <li v-for="s in bench.sensors" :key="s.id">
              <NuxtLink :to="`/sensors/${s.id}`">{{ s.name }}</NuxtLink>{{ ' ' }}
              <span v-if="s.due" :class="s.overdue ? 'font-semibold text-fail' : 'text-open'"
                >calibration {{ s.overdue ? 'was due' : 'due' }} {{ day(s.due) }}{{ s.words ? '; ' : '' }}</span
              ><span class="text-open">{{ s.words }}</span
              ><span v-if="s.plannedFor.length > 0" class="block text-xs text-quiet"
                >planned for {{ s.plannedFor.join('; ') }}</span
              >
            </li>
          </ul>
          <p v-else class="text-sm text-quiet">None overdue, none over its range.</p>
        </section>
      </div>
    </div>
    <CampaignDialog :open="creating" @close="creating = false" />
  </main>
</template>
