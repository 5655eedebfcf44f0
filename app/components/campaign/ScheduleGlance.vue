<script setup lang="ts">
import { daysBetween } from '@hypomet/core'
import { shareOfSpan } from '~/composables/campaign/timeline'
import type { CampaignPage } from '~/types/api'

/**
 * A campaign's dates and money on one strip: tests that ran and are planned against the due date; what is spent,
 * committed and left.
 */
const props = defineProps<{ campaign: CampaignPage; today: string }>()
const tests = computed(() =>
  props.campaign.articles.flatMap(a =>
    a.revisions.flatMap(r => r.tests.map(t => ({ ...t, name: `${a.name} ${r.label}: ${t.title}` }))),
  ),
)
const dated = computed(() =>
  tests.value.flatMap(t => {
    const on = t.ranOn ? localDay(t.ranOn) : t.plannedOn
    return on ? [{ ...t, on }] : []
  }),
)
const from = computed(() => [props.today, localDay(props.campaign.createdAt), ...dated.value.map(t => t.on)].sort()[0]!)
const to = computed(() => [props.today, props.campaign.due ?? '', ...dated.value.map(t => t.on)].sort().at(-1)!)
const x = (on: string) => 2 + 96 * shareOfSpan(from.value, to.value, on)
const weeks = computed(() => (props.campaign.due ? Math.round(daysBetween(props.today, props.campaign.due) / 7) : null))
const costs = computed(() => props.campaign.money)
const money = (n: number) => moneyText(n, props.campaign.currency)
const whole = computed(() => Math.max(1, props.campaign.budget ?? 0, costs.value.spent + costs.value.committed))
</script>

<template>
  <section class="panel grid grid-cols-[1fr_18rem] gap-6" aria-label="Schedule and money">
    <div>
      <div class="flex items-baseline justify-between">
        <h2><NuxtLink :to="`/campaigns/${campaign.slug}/schedule`">Schedule</NuxtLink></h2>
        <span class="text-xs text-quiet"
          >{{ tests.filter(t => t.ranOn).length }} run · {{ tests.filter(t => !t.ranOn && t.plannedOn).length }} planned
          · {{ tests.filter(t => !t.ranOn && !t.plannedOn).length }} without a date</span
        >
      </div>
      <div class="relative mt-1 h-9">
        <div class="absolute inset-x-0 top-3 h-1 rounded bg-sunk" />
        <span tabindex="0" class="absolute top-0 h-7 w-px bg-ink" :style="{ left: `${x(today)}%` }" data-hint="today" />
        <span
          v-if="campaign.due"
          tabindex="0"
          class="absolute top-0 h-7 w-1 bg-fail"
          :style="{ left: `${x(campaign.due)}%` }"
          :data-hint="`due ${day(campaign.due)}`"
        />
        <NuxtLink
          v-for="t in dated"
          :key="t.id"
          :to="`/tests/${t.id}/${t.ranOn ? 'judge' : 'plan'}`"
          :data-hint="`${t.name}, ${t.ranOn ? 'run' : 'planned'} ${day(t.on)}`"
          :aria-label="`${t.name}, ${t.ranOn ? 'run' : 'planned'} ${day(t.on)}`"
          :class="[
            'absolute top-1.5 size-4 -translate-x-1/2 rounded-full border-2 border-accent',
            t.ranOn ? 'bg-accent' : 'bg-panel',
          ]"
          :style="{ left: `${x(t.on)}%` }"
        />
        <span class="absolute top-6 text-2xs text-quiet" :style="{ left: `${Math.min(92, x(today))}%` }">today</span>
        <span v-if="campaign.due" class="absolute right-0 top-6 text-2xs text-quiet"
          >due {{ day(campaign.due)
          }}{{ weeks === null ? '' : weeks >= 0 ? ` · ${weeks} weeks` : ` · ${-weeks} weeks late` }}</span
        >
      </div>
    </div>
    <div>
      <div class="flex items-baseline justify-between">
        <h2>Money</h2>
        <span class="text-xs text-quiet">{{
          campaign.budget === null ? 'no budget written down' : `of ${money(campaign.budget)}`
        }}</span>
      </div>
      <div
        class="mt-2 flex h-3 overflow-hidden rounded bg-sunk"
        role="img"
        :aria-label="`${money(costs.spent)} spent, ${money(costs.committed)} committed`"
      >
        <span class="bg-accent" :style="{ width: `${(100 * costs.spent) / whole}%` }" /><span
          class="border-y-2 border-accent bg-accent-soft"
          :style="{ width: `${(100 * costs.committed) / whole}%` }"
        />
      </div>
      <p class="mt-1 text-xs">
        {{ money(costs.spent) }} spent · {{ money(costs.committed) }} committed<template v-if="costs.unfunded !== null">
          ·
          <span :class="costs.unfunded > 0 ? 'font-semibold text-fail' : ''">{{
            costs.unfunded > 0 ? `${money(costs.unfunded)} unfunded` : `${money(costs.left!)} left`
          }}</span></template
        ><span v-if="costs.unpriced > 0" class="text-quiet"> · {{ costs.unpriced }} tests without a cost</span>
      </p>
    </div>
  </section>
</template>
