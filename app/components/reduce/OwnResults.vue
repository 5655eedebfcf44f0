<script setup lang="ts">
import { Plus, Trash2 } from '@lucide/vue'
import { placeWords, type DeclaredOwn, type HypometError, type MethodOutput } from '@hypomet/core'
import { ownAsked, PLACES, type AskedOwn, type PlaceKey } from '~/composables/reduce/ownForm'
import type { Further } from '~/workers/reducer.worker'

/** Results of one's own: which channel or expression, and where; of this test alone or of all of its article's. */
const props = defineProps<{
  modelValue: readonly AskedOwn[]
  roles: readonly string[]
  further: readonly Further[]
  declared: readonly DeclaredOwn[]
  output: MethodOutput | null
  problem: HypometError | null
  article: string
}>()
const emit = defineEmits<{ set: [own: AskedOwn[]]; declare: [own: DeclaredOwn[]] }>()
const form = reactive({ name: '', reads: '', place: 'peak' as PlaceKey, said: '', isZeroed: true })
const isOpen = ref(false)
const place = computed(() => PLACES.find(p => p.key === form.place)!)
const made = computed(() => ownAsked(form))
const add = () => {
  if (!('own' in made.value)) return
  emit('set', [...props.modelValue, made.value.own])
  Object.assign(form, { name: '', reads: '', said: '' })
  isOpen.value = false
}
const takeOut = (name: string) => {
  emit(
    'set',
    props.modelValue.filter(o => o.name !== name),
  )
  if (props.declared.some(d => d.name === name))
    emit(
      'declare',
      props.declared.filter(d => d.name !== name),
    )
}
const kindOf = (name: string) => props.output?.own?.[name]?.kind ?? null
function declare(o: AskedOwn, isForAll: boolean): void {
  const others = props.declared.filter(d => d.name !== o.name)
  const kind = kindOf(o.name)
  // Most are to stay below something; the limit itself says so.
  if (isForAll && kind) emit('declare', [...others, { ...o, kind, limited: 'atMost' }])
  else if (!isForAll) emit('declare', others)
}
/** Declared for the article, and not asked of this record yet. */
const lacking = computed(() => props.declared.filter(d => !props.modelValue.some(o => o.name === d.name)))
const take = ({ kind: _, limited: __, ...o }: DeclaredOwn) => emit('set', [...props.modelValue, o])
const wrong = (i: number) => (props.problem?.place.path?.startsWith(`settings.own.${i}.`) ? props.problem.message : '')
const id = useId()
</script>

<template>
  <details class="panel py-2" :open="modelValue.length > 0 || isOpen" aria-label="Results of your own">
    <summary class="flex cursor-pointer items-baseline justify-between gap-2">
      <h2>Results of your own</h2>
      <span :class="['text-xs', problem?.place.path?.startsWith('settings.own') ? 'text-fail' : 'text-quiet']">{{
        modelValue.length === 0 ? 'none' : `${modelValue.length} set`
      }}</span>
    </summary>
    <ul class="mt-1 space-y-1.5">
      <li v-for="(o, i) in modelValue" :key="o.name" class="text-sm" :data-own="o.name">
        <p class="flex items-center justify-between gap-2">
          <span class="min-w-0 truncate font-medium">{{ o.name }}</span>
          <button
            type="button"
            class="rounded p-1 text-quiet hover:text-ink"
            :aria-label="`Take out ${o.name}`"
            @click="takeOut(o.name)"
          >
            <Trash2 class="size-3.5" aria-hidden="true" />
          </button>
        </p>
        <p class="text-xs text-quiet">
          <code>{{ o.channel ?? o.expression }}</code> {{ placeWords(o.at) }}{{ o.zero === null ? ', as read' : '' }}
        </p>
        <p v-if="wrong(i)" class="problem">{{ wrong(i) }}</p>
        <label v-else class="flex items-center gap-1.5 text-xs"
          ><input
            type="checkbox"
            :checked="declared.some(d => d.name === o.name)"
            :disabled="kindOf(o.name) === null"
            @change="declare(o, ($event.target as HTMLInputElement).checked)"
          />for every test of {{ article }}, and to set limits on</label
        >
      </li>
      <li v-for="d in lacking" :key="d.name" class="flex items-center justify-between gap-2 text-sm">
        <span class="min-w-0 truncate text-quiet">{{ d.name }}</span>
        <button type="button" class="button px-1.5 text-xs" @click="take(d)">Read it here</button>
      </li>
    </ul>
    <button v-if="!isOpen" type="button" class="button mt-2 text-xs" @click="isOpen = true">
      <Plus class="size-3.5" aria-hidden="true" />Add a result
    </button>
    <form v-else class="mt-2 space-y-2" aria-label="A result of your own" @submit.prevent="add">
      <label class="block"
        ><span class="label">Name</span
        ><input v-model.trim="form.name" class="field" placeholder="Strain at limit load" autocomplete="off"
      /></label>
      <label class="block"
        ><span class="label">Channel, or an expression of channels</span
        ><input
          v-model.trim="form.reads"
          class="field font-mono"
          :list="`${id}-channels`"
          placeholder="(LL1 - LL5) / 1.27 m"
          spellcheck="false"
          autocomplete="off"
      /></label>
      <datalist :id="`${id}-channels`">
        <option v-for="r in roles" :key="r" :value="r" />
        <option v-for="c in further.slice(0, 2000)" :key="c.symbol" :value="c.symbol">{{ c.name }}</option>
      </datalist>
      <div class="grid grid-cols-2 gap-2">
        <label
          ><span class="label">Where</span
          ><select v-model="form.place" class="field">
            <option v-for="p in PLACES" :key="p.key" :value="p.key">{{ p.label }}</option>
          </select></label
        >
        <label v-if="place.asks"
          ><span class="label">{{ place.asks }}</span
          ><input
            v-model.trim="form.said"
            class="field"
            :list="form.place === 'slope' ? `${id}-channels` : undefined"
            :placeholder="place.example"
            autocomplete="off"
        /></label>
      </div>
      <label class="flex items-center gap-1.5 text-xs"
        ><input v-model="form.isZeroed" type="checkbox" />its reading at the zero taken off</label
      >
      <p v-if="'lacks' in made && form.name !== ''" class="text-xs text-quiet">{{ made.lacks }}</p>
      <div class="flex justify-end gap-2">
        <button type="button" class="button text-xs" @click="isOpen = false">Leave it</button
        ><button class="button-main text-xs" :disabled="!('own' in made)">Add</button>
      </div>
    </form>
  </details>
</template>
