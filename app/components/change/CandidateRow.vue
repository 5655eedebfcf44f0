<script setup lang="ts">
import type { Candidate, Traded } from '@hypomet/core'
import type { LimitRow } from '~/types/api'

/** One way to change the article: what changes, what that costs, and the rails as they would become. */
const props = defineProps<{
  candidate: Candidate
  traded: Traded | null
  limits: readonly LimitRow[]
  isFirst: boolean
  mayAccept: boolean
}>()
defineEmits<{ accept: []; closer: [] }>()
const { units, page, resultKind, resultLabel } = useTest()
const signed = (kg: number) => `${kg >= 0 ? '+' : '−'}${units.show(Math.abs(kg), 'mass', { digits: 3 })}`
const c = computed(() => props.candidate)
const own = ['modulus', 'strength', 'shearStrength', 'density']
const shown = computed(() => c.value.changes.filter(k => !own.includes(k.property)))
const material = computed(() => c.value.changes.filter(k => own.includes(k.property)))
function worsening({ quantity, from, to }: Candidate['worse'][number]): string {
  const show = (si: number) => units.show(si, resultKind(quantity), { digits: 3 })
  return `${resultLabel(quantity).toLowerCase()} ${show(from)} → ${show(to)}`
}
</script>

<template>
  <article
    :class="['panel grid grid-cols-[17rem_minmax(0,1fr)_10.5rem] gap-4', isFirst ? 'border-accent' : '']"
    :data-candidate="c.id"
  >
    <div class="min-w-0">
      <p class="font-semibold">{{ c.title }}</p>
      <p v-for="k in shown" :key="k.property" class="text-sm">
        {{ k.label }} {{ units.show(k.from, k.kind, { digits: 4 }) }} →
        <strong>{{ units.show(k.to, k.kind, { digits: 4 }) }}</strong>
      </p>
      <p v-if="material.length > 0" class="text-xs text-quiet">
        {{ material.map(k => `${k.label.toLowerCase()} ${units.show(k.to, k.kind, { digits: 3 })}`).join(', ') }}
      </p>
      <p v-if="c.worse.length > 0" class="text-xs text-open">
        Worse, and no limit guards it:
        {{ c.worse.map(worsening).join(', ') }}.
      </p>
      <p v-if="c.extrapolated.length > 0" class="text-xs text-open">
        {{ c.extrapolated.join(', ') }}: beyond what was seen to hold; band widened.
      </p>
      <details class="mt-1 text-xs text-quiet">
        <summary class="cursor-pointer">What it touches, what stands behind it, how to show it</summary>
        <ul class="ml-4 list-disc">
          <li v-for="t in c.touches" :key="t">{{ t }}</li>
        </ul>
        <p v-for="e in c.evidence" :key="e" class="mt-0.5">{{ e }}</p>
        <p class="mt-0.5">{{ c.verify }}</p>
      </details>
    </div>
    <CandidateRails
      :candidate="c"
      :limits="limits"
      :columns="limits.length > 3 ? 2 : limits.length > 1 ? limits.length : 1"
    />
    <div class="flex flex-col gap-1 text-right text-sm">
      <p class="text-lg font-bold">
        {{
          c.massChange === null ? 'mass not known' : Math.abs(c.massChange) < 1e-9 ? 'same mass' : signed(c.massChange)
        }}
      </p>
      <p class="text-xs text-quiet">
        {{
          [
            c.mass === null ? '' : `${units.show(c.mass, 'mass', { digits: 3 })} in all`,
            c.cost === null ? 'cost not said' : moneyText(c.cost, page.campaign.currency),
            c.leadTimeDays > 0 ? `${c.leadTimeDays}\u202fd` : 'no lead time',
          ]
            .filter(Boolean)
            .join(' · ')
        }}
      </p>
      <div
        v-if="traded"
        tabindex="0"
        class="flex items-center justify-end gap-1.5"
        :data-hint="`Score ${traded.score.toFixed(2)} of 1`"
      >
        <span class="text-xs text-quiet">score {{ traded.score.toFixed(2) }}</span
        ><span class="h-1.5 w-16 overflow-hidden rounded bg-sunk"
          ><span class="block h-full bg-accent" :style="{ width: `${100 * traded.score}%` }"
        /></span>
      </div>
      <div class="mt-auto flex justify-end gap-1.5 pt-1">
        <button type="button" class="button text-sm" @click="$emit('closer')">Edit sizes</button
        ><button type="button" class="button-main text-sm" :disabled="!mayAccept" @click="$emit('accept')">
          Accept
        </button>
      </div>
    </div>
  </article>
</template>
