<script setup lang="ts">
import { factOf, writeFact, type Fact, type KnownFact, type QuantityInput, type UnitPreference } from '@hypomet/core'

/** Sizes and facts that this kind of test knows, each a field of its own that may wait; further ones are free. */
const facts = defineModel<Fact[]>({ required: true })
const props = defineProps<{
  known: readonly KnownFact[]
  prefer: UnitPreference
  names: string[]
  problem: { index: number; message: string } | null
}>()
const id = useId()
const found = computed(() => props.known.map(k => ({ k, fact: factOf(facts.value, k) })))
const taken = computed(() => new Set(found.value.flatMap(({ fact }) => (fact ? [fact] : []))))
const others = computed({
  get: () => facts.value.filter(f => !taken.value.has(f)),
  set: list => {
    facts.value = [...facts.value.filter(f => taken.value.has(f)), ...list]
  },
})
function set(k: KnownFact, fact: Fact | undefined, value: QuantityInput | string | null): void {
  if (value === null || value === '') facts.value = facts.value.filter(f => f !== fact)
  else if (fact) facts.value = facts.value.map(f => (f === fact ? { ...f, value } : f))
  else facts.value = [...facts.value, { group: k.group, name: k.title, value }]
}
const complaint = (fact: Fact | undefined) =>
  props.problem && fact && facts.value[props.problem.index] === fact ? props.problem.message : undefined
const ofOthers = computed(() => {
  const fact = props.problem && facts.value[props.problem.index]
  const index = fact ? others.value.indexOf(fact) : -1
  return index < 0 ? null : { index, message: props.problem!.message }
})
/** Under another of its names it keeps that name. */
const titleOf = ({ title }: KnownFact, fact: Fact | undefined) =>
  fact && fact.name.toLowerCase() !== title.toLowerCase() ? `${title} (${fact.name})` : title
</script>

<template>
  <div class="space-y-3">
    <fieldset v-if="known.length > 0" class="rounded-md border border-line p-2">
      <legend class="label px-1">Sizes and facts of this kind of test; each may wait</legend>
      <div class="grid grid-cols-3 gap-x-3 gap-y-2">
        <template v-for="{ k, fact } in found" :key="k.key">
          <label v-if="k.kind === 'word'" class="block" :data-hint="`For ${k.for}`">
            <span class="label">{{ titleOf(k, fact) }}</span>
            <input
              class="field"
              :value="fact ? writeFact(fact.value, prefer.numbers) : ''"
              :list="k.choices ? `${id}-${k.key}` : undefined"
              :placeholder="`for ${k.for}`"
              @change="set(k, fact, ($event.target as HTMLInputElement).value.trim())"
            />
            <datalist v-if="k.choices" :id="`${id}-${k.key}`">
              <option v-for="c in k.choices" :key="c" :value="c" />
            </datalist>
          </label>
          <QuantityField
            v-else
            :model-value="(fact?.value as QuantityInput) ?? null"
            :kind="k.kind"
            :label="titleOf(k, fact)"
            :prefer="prefer"
            :placeholder="`for ${k.for}`"
            :problem="complaint(fact)"
            :data-hint="`For ${k.for}`"
            optional
            @update:model-value="set(k, fact, $event)"
          />
        </template>
      </div>
    </fieldset>
    <FactsTable v-model="others" :names="names" :problem="ofOthers" />
  </div>
</template>
