<script setup lang="ts">
import {
  inUnit,
  preferredUnit,
  siUnit,
  writeLadder,
  type Kind,
  type LadderRule,
  type QuantityInput,
  type UnitPreference,
  type WrittenRung,
  parseSettings,
  quantity,
  formatNumber,
} from '@hypomet/core'
import type { RungDraft } from '~/composables/plan/usePlanDraft'

/** A ladder written by a rule: shares of a goal, even steps, or steps that shrink towards it. */
const props = defineProps<{
  open: boolean
  kind: Kind
  prefer: UnitPreference
  goal: number
  goals: { label: string; value: number }[]
}>()
const emit = defineEmits<{ close: []; write: [rungs: RungDraft[]] }>()
const unit = computed(() => preferredUnit(props.kind, { prefer: props.prefer }))
const form = reactive({
  rule: 'percent' as LadderRule['rule'],
  goal: 0 as QuantityInput,
  percents: '20; 40; 60; 80; 100',
  step: 0 as QuantityInput,
  first: 50,
  share: 50,
  smallest: 5,
  hold: { value: 20, unit: 's' } as QuantityInput,
  zeroEvery: 0,
  lookFrom: 80,
})
const inSi = (q: QuantityInput) => parseSettings(quantity(props.kind), q)
watch(
  () => props.open,
  open => {
    if (open) aim(props.goal)
  },
)
/** Goal and step in the campaign's unit. */
function aim(si: number): void {
  const goal = Number(inUnit(si, props.kind, unit.value).toPrecision(4))
  form.goal = { value: goal, unit: unit.value }
  form.step = { value: Number((goal / 5).toPrecision(3)), unit: unit.value }
}
const value = (q: QuantityInput) => inUnit(inSi(q), props.kind, unit.value)
const percents = computed(() =>
  form.percents
    .split(/[;,\s]+/)
    .map(Number)
    .filter(p => p > 0),
)
function ruleOf(goal: number): LadderRule {
  if (form.rule === 'percent') return { rule: 'percent', goal, percents: percents.value }
  if (form.rule === 'increments') return { rule: 'increments', goal, step: value(form.step) }
  const [first, smallest] = [(goal * form.first) / 100, (goal * form.smallest) / 100]
  return { rule: 'approach', goal, first, share: form.share / 100, smallest }
}
const written = computed((): WrittenRung[] => {
  return writeLadder(ruleOf(value(form.goal)), {
    unit: unit.value,
    hold: parseSettings(quantity('time'), form.hold),
    zeroEvery: form.zeroEvery,
    lastHold: 60,
    lookFrom: form.lookFrom / 100,
  })
})
const preview = computed(() =>
  written.value
    .map(r => `${formatNumber((r.target as { value: number }).value, 4)}${r.decision ? ' (look)' : ''}`)
    .join(' → '),
)
const rules = [
  { value: 'percent', label: 'Per cent of a goal' },
  { value: 'increments', label: 'Even steps' },
  { value: 'approach', label: 'Shrinking steps towards a limit' },
]
const si = computed(() => siUnit(props.kind))
</script>

<template>
  <BaseDialog
    :open="open"
    title="Ladder by a rule"
    description="What is written is edited like any other ladder; undo takes it back."
    @close="emit('close')"
  >
    <form class="space-y-3" @submit.prevent="emit('write', written as RungDraft[])">
      <label class="block"
        ><span class="label">Rule</span
        ><select v-model="form.rule" class="field">
          <option v-for="r in rules" :key="r.value" :value="r.value">{{ r.label }}</option>
        </select></label
      >
      <p v-if="goals.length > 0" class="flex flex-wrap items-center gap-1 text-xs">
        <span class="text-quiet">Goal from</span
        ><button
          v-for="g in goals"
          :key="g.label"
          type="button"
          class="button px-1.5 py-0.5 text-xs"
          @click="aim(g.value)"
        >
          {{ g.label }}
        </button>
      </p>
      <div class="grid grid-cols-3 items-end gap-2">
        <QuantityField v-model="form.goal as never" :kind="kind" :prefer="prefer" label="Goal" />
        <label v-if="form.rule === 'percent'" class="col-span-2"
          ><span class="label">Per cent</span><input v-model="form.percents" class="field"
        /></label>
        <QuantityField
          v-else-if="form.rule === 'increments'"
          v-model="form.step as never"
          :kind="kind"
          :prefer="prefer"
          label="Step"
        />
        <template v-else>
          <label
            ><span class="label">First, % of the goal</span
            ><input v-model.number="form.first" class="field" type="number" min="1" max="100"
          /></label>
          <label
            ><span class="label">Then, % of what is left</span
            ><input v-model.number="form.share" class="field" type="number" min="1" max="100"
          /></label>
          <label
            ><span class="label">No less than, % of the goal</span
            ><input v-model.number="form.smallest" class="field" type="number" min="0.5" max="100" step="0.5"
          /></label>
        </template>
        <QuantityField v-model="form.hold as never" kind="time" :prefer="prefer" label="Hold at each" />
        <label
          ><span class="label">Zero after every … rungs, 0 for none</span
          ><input v-model.number="form.zeroEvery" class="field" type="number" min="0" max="20"
        /></label>
        <label
          ><span class="label">Look from … % on</span
          ><input v-model.number="form.lookFrom" class="field" type="number" min="1" max="1000"
        /></label>
      </div>
      <p tabindex="0" class="rounded bg-sunk px-2 py-1 text-sm" :data-hint="si">
        {{ preview }} <span class="text-quiet">{{ unit === '1' ? '' : unit }}, {{ written.length }} rungs</span>
      </p>
      <div class="flex justify-end gap-2">
        <button type="button" class="button" @click="emit('close')">Leave it</button
        ><button class="button-main" :disabled="written.length < 3">Write the ladder</button>
      </div>
    </form>
  </BaseDialog>
</template>
