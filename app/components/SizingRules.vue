<script setup lang="ts">
import type { QuantityInput, SizingDimension, SizingRulesInput } from '@hypomet/core'

/** What is wanted beyond the limits, what may not get worse, and what can be bought or made: kept with the article. */
defineProps<{ dimensions: readonly SizingDimension[]; specimens: number; keepable: readonly { key: string; label: string }[] }>()
const rules = defineModel<SizingRulesInput>({ required: true })
const from = defineModel<'test' | 'revision'>('from', { required: true })
const { units, page } = useTest()
const opened = ref(false)
type Made = NonNullable<NonNullable<SizingRulesInput['made']>[string]>
const set = (part: Partial<SizingRulesInput>) => { rules.value = { ...rules.value, ...part } }
const made = (key: string): Made => rules.value.made?.[key] ?? {}
function setMade(key: string, part: { [K in keyof Made]?: Made[K] | null }): void {
  const next = Object.fromEntries(Object.entries({ ...made(key), ...part }).filter(([, v]) => v !== null && v !== undefined && !(Array.isArray(v) && v.length === 0))) as Made
  set({ made: { ...rules.value.made, [key]: next } })
}
const keeps = (key: string) => (rules.value.keep ?? []).includes(key)
const toggle = (key: string) => set({ keep: keeps(key) ? rules.value.keep!.filter(k => k !== key) : [...(rules.value.keep ?? []), key] })
/** “1; 1.5; 2 mm”: sizes with one unit behind the last, or each with its own. */
const listText = (key: string) => (made(key).sizes ?? []).map(q => (typeof q === 'number' ? String(q) : `${q.value} ${q.unit}`)).join('; ')
const listProblem = reactive<Record<string, string>>({})
function readList(d: SizingDimension, text: string): void {
  const parts = text.split(/[;\n]/).map(p => p.trim()).filter(Boolean)
  const unit = /[^\d.,\s].*$/.exec(parts.at(-1) ?? '')?.[0] ?? ''
  try {
    setMade(d.key, { sizes: parts.map(p => units.parse(/[^\d.,\s]/.test(p) ? p : `${p} ${unit}`, d.kind)) })
    listProblem[d.key] = ''
  } catch (e) {
    listProblem[d.key] = e instanceof Error ? e.message : ''
  }
}
const number = (text: string) => (text.trim() === '' ? null : Number(text.replace(',', '.')))
</script>

<template>
  <section class="panel grid grid-cols-1 gap-2 self-start">
    <h2>Rules for sizing</h2>
    <QuantityField :model-value="(rules.wantedMargin as QuantityInput | undefined) ?? 0.02" kind="ratio" :prefer="{ ratio: '%' }" label="Margin wanted beyond each limit" @update:model-value="set({ wantedMargin: $event ?? 0.02 })" />
    <label class="block"><span class="label">Sized from</span><select v-model="from" class="field"><option value="test">this test</option><option value="revision" :disabled="specimens < 2">{{ specimens < 2 ? 'all specimens (there is one)' : `all ${specimens} specimens of ${page.revision.label}` }}</option></select></label>
    <fieldset v-if="keepable.length > 0"><legend class="label">May not get worse</legend><div class="flex flex-wrap gap-x-3"><label v-for="k in keepable" :key="k.key" class="flex items-center gap-1.5 text-sm"><input type="checkbox" :checked="keeps(k.key)" @change="toggle(k.key)">{{ k.label }}</label></div></fieldset>
    <button v-if="dimensions.length > 0" type="button" class="button" @click="opened = true">What can be bought or made …</button>
    <BaseDialog :open="opened" wide title="What can be bought or made" description="Sizes come in steps or from a list (stock, gauges, plies). A change takes what lies nearest and still meets every limit. Kept with the article." @close="opened = false">
      <div class="max-h-[60vh] space-y-3 overflow-y-auto">
        <fieldset v-for="d in dimensions" :key="d.key" class="rounded-md border border-line p-2" :data-made="d.key">
          <legend class="px-1 font-semibold">{{ d.label }} <span class="font-normal text-quiet">tested {{ units.show(d.value, d.kind, { digits: 4 }) }}</span></legend>
          <div class="grid grid-cols-5 gap-2">
            <QuantityField :model-value="made(d.key).step ?? (d.step ? units.input(d.step, d.kind) : null)" :kind="d.kind" :prefer="units.prefer.value" label="In steps of" optional @update:model-value="setMade(d.key, { step: $event })" />
            <QuantityField :model-value="made(d.key).lowest ?? null" :kind="d.kind" :prefer="units.prefer.value" label="Smallest" optional :placeholder="units.show(d.reach[0], d.kind, { digits: 3 })" @update:model-value="setMade(d.key, { lowest: $event })" />
            <QuantityField :model-value="made(d.key).highest ?? null" :kind="d.kind" :prefer="units.prefer.value" label="Largest" optional :placeholder="units.show(d.reach[1], d.kind, { digits: 3 })" @update:model-value="setMade(d.key, { highest: $event })" />
            <label class="block"><span class="label">Lead time, days</span><input class="field" inputmode="numeric" :value="made(d.key).leadTimeDays ?? ''" @change="setMade(d.key, { leadTimeDays: number(($event.target as HTMLInputElement).value) })"></label>
            <label class="block"><span class="label">Cost, {{ page.campaign.currency }}</span><input class="field" inputmode="decimal" :value="made(d.key).cost ?? ''" @change="setMade(d.key, { cost: number(($event.target as HTMLInputElement).value) })"></label>
          </div>
          <label class="mt-1 block"><span class="label">Or only these sizes</span><input class="field" :value="listText(d.key)" placeholder="2; 2.5; 3.2; 4 mm" :aria-invalid="!!listProblem[d.key]" @change="readList(d, ($event.target as HTMLInputElement).value)"></label>
          <p v-if="listProblem[d.key]" class="problem">{{ listProblem[d.key] }}</p>
        </fieldset>
      </div>
      <div class="mt-3 flex justify-end"><button type="button" class="button-main" @click="opened = false">Done</button></div>
    </BaseDialog>
  </section>
</template>
