<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { FACT_GROUPS, isHypometError, readFact, writeFact, type Fact } from '@hypomet/core'

/** Further properties of a revision: free names, values typed by what they are: a number with its unit, or a word. */
const facts = defineModel<Fact[]>({ required: true })
const props = defineProps<{ names: string[]; problem?: { index: number; message: string } | null }>()
const id = useId()
const set = (i: number, change: Partial<Fact>) => {
  facts.value = facts.value.with(i, { ...facts.value[i]!, ...change })
}
/** What could not be taken; what was there stays. */
const refused = ref<{ index: number; message: string } | null>(null)
function take(index: number, text: string): void {
  refused.value = null
  try {
    set(index, { value: readFact(text) })
  } catch (e) {
    if (!isHypometError(e)) throw e
    refused.value = { index, message: e.message }
  }
}
const wrong = (index: number) => [refused.value, props.problem].find(p => p?.index === index)?.message ?? ''
const add = () => {
  facts.value = [...facts.value, { group: 'Other', name: '', value: '' }]
}
</script>

<template>
  <fieldset>
    <legend class="label">Further properties: 0.8 mm, 120 °C, or a word</legend>
    <datalist :id="id"><option v-for="n in names" :key="n" :value="n" /></datalist>
    <div v-for="(f, i) in facts" :key="i" class="mb-1">
      <div class="grid grid-cols-[8rem_1fr_1fr_auto] gap-1">
        <select
          class="field"
          :value="f.group"
          :aria-label="`Group of property ${i + 1}`"
          @change="set(i, { group: ($event.target as HTMLSelectElement).value })"
        >
          <option v-for="g in FACT_GROUPS" :key="g" :value="g">{{ g }}</option>
        </select>
        <input
          class="field"
          :value="f.name"
          :list="id"
          :aria-label="`Name of property ${i + 1}`"
          placeholder="Fillet radius"
          @change="set(i, { name: ($event.target as HTMLInputElement).value })"
        />
        <input
          class="field"
          :value="writeFact(f.value)"
          :aria-label="`Value of property ${i + 1}`"
          placeholder="3 mm"
          :aria-invalid="wrong(i) !== ''"
          @change="take(i, ($event.target as HTMLInputElement).value)"
        />
        <button
          type="button"
          class="button px-1.5"
          :aria-label="`Remove property ${i + 1}`"
          @click="facts = facts.toSpliced(i, 1)"
        >
          <X class="size-3.5" aria-hidden="true" />
        </button>
      </div>
      <p v-if="wrong(i)" class="problem">{{ wrong(i) }}</p>
    </div>
    <button type="button" class="button text-xs" @click="add">
      <Plus class="size-3.5" aria-hidden="true" />Add a property
    </button>
  </fieldset>
</template>
