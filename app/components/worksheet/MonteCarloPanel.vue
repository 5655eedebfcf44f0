<script setup lang="ts">
import { Dices, Square } from '@lucide/vue'
import {
  formatQuantity,
  kindOfSi,
  type Figure,
  type SampledOutput,
  type Setup,
  type UnitPreference,
} from '@hypomet/core'

/** The same result by drawing from the inputs, in a worker, beside the propagation of uncertainties. */
const props = defineProps<{ setup: Setup; prefer: UnitPreference }>()
const { draw, stop } = useCalculator()
const { busy, problem, run } = useAction()
const draws = ref(100_000)
const seed = ref(1)
const share = ref(0)
const drawn = shallowRef<SampledOutput | null>(null)
watch(
  () => props.setup,
  () => {
    if (busy.value) stop()
    drawn.value = null
    problem.value = null
  },
)

const begin = () =>
  run(async () => {
    share.value = 0
    drawn.value = await draw(props.setup, { draws: draws.value, seed: seed.value, progress: s => (share.value = s) })
  })
const kind = computed(() => (drawn.value ? (kindOfSi(drawn.value.unit) ?? 'ratio') : 'ratio'))
const show = (si: number) => formatQuantity(si, kind.value, { prefer: props.prefer, digits: 5 })
const figure = computed<Figure | null>(() => {
  if (!drawn.value) return null
  const {
    histogram: { from, to, counts },
    draws: n,
  } = drawn.value
  const width = (to - from) / counts.length
  const x = counts.flatMap((_, i) => [from + i * width, from + (i + 1) * width])
  return {
    x: { label: 'Value', kind: kind.value },
    y: { label: 'Share of draws', kind: 'ratio' },
    series: [{ name: 'Draws', style: 'measured', x, y: counts.flatMap(c => [c / n, c / n]) }],
    lines: [],
    bands: [{ from: drawn.value.interval[0], to: drawn.value.interval[1], label: 'shortest 95 %' }],
  }
})
const agreementWords = computed(() => {
  if (!drawn.value) return ''
  const { agrees, low, high, tolerance } = drawn.value.agreement
  if (agrees) return 'The propagated 95 % interval has the same ends to two digits of u: it may be used.'
  const show = (si: number) => formatQuantity(si, kind.value, { prefer: props.prefer, digits: 2 })
  return (
    `The propagated 95 % interval ends ${show(Math.max(low, high))} off this one, more than the ` +
    `${show(tolerance)} that two digits of u allow: state the interval by drawing.`
  )
})
</script>

<template>
  <section class="panel">
    <div class="flex flex-wrap items-end justify-between gap-3">
      <div>
        <h2>By drawing (Monte Carlo)</h2>
        <p class="text-xs text-quiet">
          For models that bend within the uncertainty of their inputs. The same seed gives the same digits.
        </p>
      </div>
      <div class="flex items-end gap-2">
        <label class="w-28"
          ><span class="label">How many</span
          ><select v-model.number="draws" class="field" :disabled="busy">
            <option :value="10000">10 000</option>
            <option :value="100000">100 000</option>
            <option :value="1000000">1 000 000</option>
            <option :value="10000000">10 000 000</option>
          </select></label
        >
        <label class="w-20"
          ><span class="label">Seed</span
          ><input v-model.number="seed" type="number" min="1" max="2000000000" step="1" class="field" :disabled="busy"
        /></label>
        <button v-if="busy" type="button" class="button" @click="stop">
          <Square class="size-3.5" aria-hidden="true" />Stop
        </button>
        <button v-else type="button" class="button-main" @click="begin">
          <Dices class="size-4" aria-hidden="true" />Draw
        </button>
      </div>
    </div>
    <div v-if="busy" class="mt-2">
      <progress class="h-2 w-full" max="1" :value="share" aria-label="Draws done" />
      <p class="text-xs text-quiet">
        {{ Math.round(share * draws).toLocaleString('en') }} of {{ draws.toLocaleString('en') }} draws
      </p>
    </div>
    <ProblemNote class="mt-2" :problem="problem" />
    <template v-if="drawn && !busy">
      <dl class="mt-2 grid grid-cols-2 gap-x-6 gap-y-2 sm:grid-cols-4">
        <div>
          <dt class="text-xs text-quiet">Mean</dt>
          <dd class="font-semibold tabular-nums">{{ show(drawn.mean) }}</dd>
        </div>
        <div>
          <dt class="text-xs text-quiet">Standard uncertainty</dt>
          <dd class="font-semibold tabular-nums">{{ formatQuantity(drawn.u, kind, { prefer, digits: 3 }) }}</dd>
        </div>
        <div class="col-span-2">
          <dt class="text-xs text-quiet">Shortest interval that holds 95 %</dt>
          <dd class="font-semibold tabular-nums">{{ show(drawn.interval[0]) }} to {{ show(drawn.interval[1]) }}</dd>
        </div>
      </dl>
      <p class="mt-2 text-sm" :class="drawn.agreement.agrees ? 'text-pass' : 'text-open'">
        {{ agreementWords }}
      </p>
      <FigureChart v-if="figure" class="mt-2" :figure="figure" :prefer="prefer" name="monte-carlo" height="200px" />
    </template>
  </section>
</template>
