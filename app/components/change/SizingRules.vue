<script setup lang="ts">
import {
  isHypometError,
  readMoney,
  type QuantityInput,
  type SizingDimension,
  type SizingRulesInput,
} from '@hypomet/core'

/** What is wanted beyond the limits, what may not get worse, and what can be bought or made: kept with the article. */
const props = defineProps<{
  dimensions: readonly SizingDimension[]
  specimens: number
  keepable: readonly { key: string; label: string }[]
  /** Results of one's own, and what they may go with. */
  movable: readonly { key: string; label: string }[]
  movers: readonly { key: string; label: string }[]
}>()
const rules = defineModel<SizingRulesInput>({ required: true })
const from = defineModel<'test' | 'revision'>('from', { required: true })
const { units, page } = useTest()
type Made = NonNullable<NonNullable<SizingRulesInput['made']>[string]>
const set = (part: Partial<SizingRulesInput>) => {
  rules.value = { ...rules.value, ...part }
}
const keeps = (key: string) => (rules.value.keep ?? []).includes(key)
const toggle = (key: string) =>
  set({ keep: keeps(key) ? rules.value.keep!.filter(k => k !== key) : [...(rules.value.keep ?? []), key] })

type Law = NonNullable<SizingRulesInput['own']>[string]
/** How a result of one's own moves; none takes it out of the sizing. */
function move(name: string, law: Partial<Law>): void {
  const { [name]: before, ...others } = rules.value.own ?? {}
  const goesWith = law.goesWith ?? before?.goesWith ?? ''
  set({ own: goesWith === '' ? others : { ...others, [name]: { power: 1, ...before, ...law, goesWith } } })
}
const MOST_POWER = 6
const wrongPower = reactive<Record<string, string>>({})
function movePower(name: string, field: HTMLInputElement): void {
  const power = typedNumber(field.value)
  const isPower = Number.isFinite(power) && Math.abs(power) <= MOST_POWER
  const stands = String(rules.value.own?.[name]?.power ?? 1)
  wrongPower[name] = isPower
    ? ''
    : `“${field.value}” is no power from −${MOST_POWER} to ${MOST_POWER}: it stays ${stands}.`
  if (isPower) move(name, { power })
  else field.value = stands
}

/** As typed, until it is taken. */
interface Draft {
  step: QuantityInput | null
  lowest: QuantityInput | null
  highest: QuantityInput | null
  days: string
  cost: string
  sizes: string
  problem: string
}
const drafts = reactive<Record<string, Draft>>({})
const opened = ref(false)
function openDialog(): void {
  for (const d of props.dimensions) {
    const m: Made = rules.value.made?.[d.key] ?? {}
    const sizes = (m.sizes ?? []).map(q => (typeof q === 'number' ? String(q) : `${q.value} ${q.unit}`)).join('; ')
    drafts[d.key] = {
      step: m.step ?? (d.step ? units.input(d.step, d.kind) : null),
      lowest: m.lowest ?? null,
      highest: m.highest ?? null,
      days: m.leadTimeDays === undefined ? '' : String(m.leadTimeDays),
      cost: m.cost === undefined ? '' : String(m.cost),
      sizes,
      problem: '',
    }
  }
  opened.value = true
}
/** “1; 1.5; 2 mm”: sizes with one unit behind the last, or each with its own. */
function sizesOf(text: string, kind: SizingDimension['kind']): QuantityInput[] {
  const parts = text
    .split(/[;\n]/)
    .map(p => p.trim())
    .filter(Boolean)
  const unit = /[^\d.,\s].*$/.exec(parts.at(-1) ?? '')?.[0] ?? ''
  return parts.map(p => units.parse(/[^\d.,\s]/.test(p) ? p : `${p} ${unit}`, kind))
}
const amount = (text: string): number | undefined =>
  (n => (text.trim() === '' ? undefined : Number.isFinite(n) && n >= 0 ? n : NaN))(typedNumber(text))
const money = (text: string): number | undefined =>
  text.trim() === '' ? undefined : readMoney(text, page.value.campaign.currency, units.prefer.value.numbers)
function madeOf(d: SizingDimension, draft: Draft): Made {
  const [leadTimeDays, cost] = [amount(draft.days), money(draft.cost)]
  if (Number.isNaN(leadTimeDays) || (cost ?? 0) < 0) draft.problem = 'Lead time and cost are numbers, 0 or more.'
  const sizes = sizesOf(draft.sizes, d.kind)
  return {
    ...(draft.step === null ? {} : { step: draft.step }),
    ...(draft.lowest === null ? {} : { lowest: draft.lowest }),
    ...(draft.highest === null ? {} : { highest: draft.highest }),
    ...(leadTimeDays === undefined ? {} : { leadTimeDays }),
    ...(cost === undefined ? {} : { cost }),
    ...(sizes.length > 0 ? { sizes } : {}),
  }
}
function take(): void {
  const made: Record<string, Made> = { ...rules.value.made }
  for (const d of props.dimensions) {
    const draft = drafts[d.key]!
    draft.problem = ''
    try {
      made[d.key] = madeOf(d, draft)
    } catch (e) {
      if (!isHypometError(e)) throw e
      draft.problem = e.message
    }
  }
  if (props.dimensions.some(d => drafts[d.key]!.problem !== '')) return
  set({ made })
  opened.value = false
}
</script>

<template>
  <section class="panel grid grid-cols-1 gap-2 self-start">
    <h2>Rules for sizing</h2>
    <QuantityField
      :model-value="(rules.wantedMargin as QuantityInput | undefined) ?? 0.02"
      kind="ratio"
      :prefer="{ ratio: '%' }"
      label="Margin wanted beyond each limit"
      @update:model-value="set({ wantedMargin: $event ?? 0.02 })"
    />
    <label class="block"
      ><span class="label">Sized from</span
      ><select v-model="from" class="field">
        <option value="test">this test</option>
        <option value="revision" :disabled="specimens < 2">
          {{ specimens < 2 ? 'all specimens (there is one)' : `all ${specimens} specimens of ${page.revision.label}` }}
        </option>
      </select></label
    >
    <fieldset v-if="keepable.length > 0">
      <legend class="label">Constraints: must not get worse</legend>
      <div class="flex flex-wrap gap-x-3">
        <label v-for="k in keepable" :key="k.key" class="flex items-center gap-1.5 text-sm"
          ><input type="checkbox" :checked="keeps(k.key)" @change="toggle(k.key)" />{{ k.label }}</label
        >
      </div>
    </fieldset>
    <fieldset v-if="movable.length > 0" data-moves>
      <legend class="label">Results of your own: how a change moves them</legend>
      <div v-for="m in movable" :key="m.key" class="mt-1" :data-move="m.key">
        <p class="text-sm">{{ m.label }}</p>
        <div class="grid grid-cols-[minmax(0,1fr)_4.5rem] gap-1">
          <select
            class="field"
            :value="rules.own?.[m.key]?.goesWith ?? ''"
            :aria-label="`${m.label} goes with`"
            @change="move(m.key, { goesWith: ($event.target as HTMLSelectElement).value })"
          >
            <option value="">not said</option>
            <option v-for="w in movers" :key="w.key" :value="w.key">goes with {{ w.label.toLowerCase() }}</option>
          </select>
          <input
            v-if="rules.own?.[m.key]"
            class="field"
            inputmode="decimal"
            :value="rules.own[m.key]!.power ?? 1"
            :aria-label="`To which power ${m.label} goes`"
            title="To which power of it: 1 in proportion, −1 in inverse proportion"
            @change="movePower(m.key, $event.target as HTMLInputElement)"
          />
        </div>
        <p v-if="wrongPower[m.key]" role="alert" class="problem">{{ wrongPower[m.key] }}</p>
      </div>
      <p class="mt-1 text-xs text-quiet">
        Not said: no change is sized for it. The number is the power: 1 in proportion, −1 in inverse proportion. A
        strain at a given load often goes with the stiffness to the power −1.
      </p>
    </fieldset>
    <button v-if="dimensions.length > 0" type="button" class="button" @click="openDialog">
      What can be bought or made …
    </button>
    <BaseDialog
      :open="opened"
      wide
      title="What can be bought or made"
      description="Sizes come in steps or from a list (stock, gauges, plies). A change takes what lies nearest and
        still meets every limit. Kept with the article."
      @close="opened = false"
    >
      <form @submit.prevent="take">
        <div class="max-h-[60vh] space-y-3 overflow-y-auto">
          <fieldset v-for="d in dimensions" :key="d.key" class="rounded-md border border-line p-2" :data-made="d.key">
            <legend class="px-1 font-semibold">
              {{ d.label }}
              <span class="font-normal text-quiet">tested {{ units.show(d.value, d.kind, { digits: 4 }) }}</span>
            </legend>
            <template v-if="drafts[d.key]">
              <div class="grid grid-cols-5 gap-2">
                <QuantityField
                  v-model="drafts[d.key]!.step"
                  :kind="d.kind"
                  :prefer="units.prefer.value"
                  label="In steps of"
                  optional
                />
                <QuantityField
                  v-model="drafts[d.key]!.lowest"
                  :kind="d.kind"
                  :prefer="units.prefer.value"
                  label="Smallest"
                  optional
                  :placeholder="units.show(d.reach[0], d.kind, { digits: 3 })"
                />
                <QuantityField
                  v-model="drafts[d.key]!.highest"
                  :kind="d.kind"
                  :prefer="units.prefer.value"
                  label="Largest"
                  optional
                  :placeholder="units.show(d.reach[1], d.kind, { digits: 3 })"
                />
                <label class="block"
                  ><span class="label">Lead time, days</span
                  ><input v-model="drafts[d.key]!.days" class="field" inputmode="numeric"
                /></label>
                <label class="block"
                  ><span class="label">Cost, {{ page.campaign.currency }}</span
                  ><input v-model="drafts[d.key]!.cost" class="field" inputmode="decimal"
                /></label>
              </div>
              <label class="mt-1 block"
                ><span class="label">Or only these sizes</span
                ><input v-model="drafts[d.key]!.sizes" class="field" placeholder="2; 2.5; 3.2; 4 mm"
              /></label>
              <p v-if="drafts[d.key]!.problem" role="alert" class="problem">{{ drafts[d.key]!.problem }}</p>
            </template>
          </fieldset>
        </div>
        <div class="mt-3 flex justify-end gap-2">
          <button type="button" class="button" @click="opened = false">Cancel</button
          ><button class="button-main">Take these</button>
        </div>
      </form>
    </BaseDialog>
  </section>
</template>
