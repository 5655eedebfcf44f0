<script setup lang="ts">
import { Plus, SlidersHorizontal } from '@lucide/vue'
import { isCounted, whatDecides, type Deciding, type Result, type Validity } from '@hypomet/core'
import type { JudgedLimit } from '~/composables/judge/useVerdicts'
import { planTo } from '~/composables/judge/retest'

/** What would decide a limit that stands open, each with what plans it. */
const props = defineProps<{ judged: JudgedLimit; validity: Validity | null }>()
const { page, units, outline } = useTest()
const campaigns = useCampaignStore()
const undo = useUndoStore()
const { busy, problem, run } = useAction()

const limit = computed(() => props.judged.limit)
const declared = computed(() => outline.value.results[limit.value.quantity])
const said = computed(() =>
  props.judged.result
    ? whatDecides(props.judged.result, limit.value.comparator, limit.value.value, page.value.campaign.rule, {
        validity: props.validity,
        isCounted: isCounted(declared.value),
      })
    : [],
)
const show = (si: number) => units.show(si, props.judged.kind, { digits: 3 })
const gap = (si: number) => units.difference(si, props.judged.kind)
function words(d: Deciding): string {
  switch (d.kind) {
    case 'again':
      return d.why === 'invalid' ? 'A run that counts.' : 'A run that gives this value.'
    case 'uncertainty':
      return 'A word on how far it may be off: its sensor named, with its certificate or its accuracy.'
    case 'narrow':
      return [
        `U must fall from ${gap(d.from)} to ${gap(d.to)}${d.then === 'fail' ? ', and the value then fails' : ''}`,
        d.part ? `; ${d.part.name} is ${Math.round(100 * d.part.share)} % of it` : '',
        d.repeats ? `. Or the mean of ${d.repeats} runs that scatter alike` : '',
        '.',
      ].join('')
    case 'further':
      return `A run to ${show(d.to)}${limit.value.comparator === 'atLeast' ? ' or more' : ' or less'}.`
    case 'end':
      return 'A run to the end of the article: this one leaves open how far it goes.'
    case 'steps':
      return `Steps of ${gap(d.to)} at most between call-outs (now ${gap(d.from)} are open), or a recorded peak.`
  }
}
/** The load that a result of this size asks of the ladder; null where it is no load. */
function loadFor(to: number, results: Record<string, Result>): number | null {
  const { commanded } = page.value.view ?? {}
  if (!commanded || !declared.value?.atEnd || props.judged.result?.value == null) return null
  if (props.judged.kind === commanded.kind) return to
  // A factor goes with the load that it is made of.
  const load = Object.entries(results).find(
    ([key, r]) => outline.value.results[key]?.kind === commanded.kind && outline.value.results[key]!.atEnd && r.value,
  )?.[1].value
  return props.judged.kind === 'ratio' && load && props.judged.result.value > 0
    ? (load * to) / props.judged.result.value
    : null
}
const plan = (d: Deciding) =>
  run(async () => {
    const { test, view, reductions } = page.value
    const own = JSON.parse(JSON.stringify(test.plan ?? null)) as Record<string, unknown> | null
    const load = d.kind === 'further' ? loadFor(d.to, reductions[0]?.output.results ?? {}) : null
    const to = load && view ? `, to ${units.show(load, view.commanded.kind, { digits: 3 })}` : ''
    const title = `${test.title}, again${to}`
    const { id, step } = await campaigns.createTest(page.value.revision.id, {
      title: title.replaceAll('\u202f', ' '),
      plan: own && load && view ? planTo(own, load, view.commanded.kind) : own,
      fixture: test.fixture,
      method: test.method,
    })
    undo.did(step, `new test “${title}”`)
    await navigateTo(`/tests/${id}/plan`)
  })
</script>

<template>
  <div v-if="said.length > 0" class="mt-1.5 rounded-md bg-sunk px-2 py-1.5 text-sm" data-decides>
    <p class="text-xs font-semibold">What would decide it</p>
    <ul>
      <li v-for="d in said" :key="d.kind" class="flex items-start justify-between gap-3 py-0.5">
        <span>{{ words(d) }}</span>
        <span class="flex shrink-0 gap-1">
          <NuxtLink
            v-if="d.kind === 'narrow' || d.kind === 'uncertainty'"
            :to="`/tests/${page.test.id}/reduce`"
            class="button px-1.5 py-0.5 text-xs"
            ><SlidersHorizontal class="size-3.5" aria-hidden="true" />Name the sensors</NuxtLink
          ><button
            v-if="d.kind !== 'uncertainty'"
            type="button"
            class="button px-1.5 py-0.5 text-xs"
            :disabled="busy"
            @click="plan(d)"
          >
            <Plus class="size-3.5" aria-hidden="true" />Plan {{ d.kind === 'narrow' ? 'a repeat' : 'it' }}
          </button>
        </span>
      </li>
    </ul>
    <ProblemNote :problem="problem" />
  </div>
</template>
