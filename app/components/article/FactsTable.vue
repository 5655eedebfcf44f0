<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import {
  FACT_GROUPS,
  HypometError,
  isHypometError,
  isOpenNumber,
  readNumber,
  parseAnyQuantity,
  writeFact,
  type Fact,
} from '@hypomet/core'

/** Further properties of a revision: free names; each a number with its unit, a whole number or a word, as chosen. */
const facts = defineModel<Fact[]>({ required: true })
const props = defineProps<{ names: string[]; problem?: { index: number; message: string } | null }>()
const id = useId()
const { style } = useNumberStyle()
/** What a property is: chosen, not guessed. */
type As = 'quantity' | 'whole' | 'word'
const KINDS: Record<As, string> = { quantity: 'number, unit', whole: 'whole number', word: 'word' }
const chosen = ref<Record<number, As>>({})
const asOf = (f: Fact): As | '' =>
  typeof f.value === 'object'
    ? 'quantity'
    : typeof f.value === 'number'
      ? Number.isInteger(f.value)
        ? 'whole'
        : 'quantity'
      : f.value === ''
        ? ''
        : 'word'
const kindAt = (i: number): As | '' => chosen.value[i] ?? asOf(facts.value[i]!)
const texts = ref<Record<number, string>>({})
const textAt = (i: number) => texts.value[i] ?? writeFact(facts.value[i]!.value, style.value)
function choose(i: number, as: As): void {
  chosen.value = { ...chosen.value, [i]: as }
  const text = textAt(i)
  if (text !== '') take(i, text)
}
function remove(i: number): void {
  ;[chosen.value, texts.value] = [without(chosen.value, i), without(texts.value, i)]
  refused.value = null
  facts.value = facts.value.toSpliced(i, 1)
}
/** What is kept by its place moves up with the rows below the one that goes. */
const without = <T,>(kept: Record<number, T>, gone: number): Record<number, T> =>
  Object.fromEntries(
    Object.entries(kept).flatMap(([k, v]) => (Number(k) === gone ? [] : [[Number(k) - Number(Number(k) > gone), v]])),
  )
const set = (i: number, change: Partial<Fact>) => {
  facts.value = facts.value.with(i, { ...facts.value[i]!, ...change })
}
/** What could not be taken; what was there stays. */
const refused = ref<{ index: number; message: string } | null>(null)
function take(index: number, text: string): void {
  refused.value = null
  texts.value = { ...texts.value, [index]: text }
  try {
    const value = readAs(kindAt(index), text.trim())
    set(index, { value })
    const { [index]: _, ...others } = texts.value
    texts.value = others
  } catch (e) {
    if (!isHypometError(e)) throw e
    refused.value = { index, message: e.message }
  }
}
function readAs(as: As | '', text: string): Fact['value'] {
  if (as === 'word') return text
  const isBare = /^[+\-−]?[\d.,\s]*$/.test(text)
  if (as === '' && isBare && text !== '')
    throw new HypometError('setting-type', `“${text}”: choose whether it is a number or a word.`)
  if (as === '' && !/^[+\-−.,]?\d/.test(text)) return text
  if (as !== 'whole') return parseAnyQuantity(text, style.value)
  const read = readNumber(text, style.value)
  if (!read || read.rest.trim() !== '' || !Number.isInteger(read.value))
    throw new HypometError('not-a-number', `“${text}” is no whole number.`)
  return read.value
}
const wrong = (index: number) => [refused.value, props.problem].find(p => p?.index === index)?.message ?? ''
const add = () => {
  facts.value = [...facts.value, { group: 'Other', name: '', value: '' }]
}
</script>

<template>
  <fieldset>
    <legend class="label">Further properties: a number with its unit, a whole number, or a word</legend>
    <datalist :id="id"><option v-for="n in names" :key="n" :value="n" /></datalist>
    <div v-for="(f, i) in facts" :key="i" class="mb-1">
      <div class="grid grid-cols-[7rem_1fr_8rem_1fr_auto] gap-1">
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
        <select
          class="field"
          :value="kindAt(i)"
          :aria-label="`Kind of property ${i + 1}`"
          @change="choose(i, ($event.target as HTMLSelectElement).value as As)"
        >
          <option v-if="kindAt(i) === ''" value="">kind</option>
          <option v-for="(label, as) in KINDS" :key="as" :value="as">{{ label }}</option>
        </select>
        <input
          class="field"
          :value="textAt(i)"
          :aria-label="`Value of property ${i + 1}`"
          placeholder="3 mm"
          :aria-invalid="wrong(i) !== ''"
          @change="take(i, ($event.target as HTMLInputElement).value)"
        />
        <button type="button" class="button px-1.5" :aria-label="`Remove property ${i + 1}`" @click="remove(i)">
          <X class="size-3.5" aria-hidden="true" />
        </button>
      </div>
      <p v-if="wrong(i)" class="problem">{{ wrong(i) }}</p>
      <NumberQuestion
        v-if="wrong(i) && kindAt(i) !== 'word' && isOpenNumber(textAt(i))"
        :text="textAt(i)"
        @answered="take(i, textAt(i))"
      />
    </div>
    <button type="button" class="button text-xs" @click="add">
      <Plus class="size-3.5" aria-hidden="true" />Add a property
    </button>
  </fieldset>
</template>
