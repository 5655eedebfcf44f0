<script setup lang="ts">
import { isHypometError, type HypometError } from '@hypomet/core'
import type { DerivedStrip, RecordChannel } from '~/types/api'

/** An expression over a record's channels, checked and drawn while it is typed, and kept as a channel. */
const props = defineProps<{
  datasetId: number
  channels: RecordChannel[]
  view: { from: number; to: number }
  width: number
  roles: readonly { role: string; label: string }[]
}>()
const emit = defineEmits<{ drawn: [strip: DerivedStrip | null]; kept: [id: number] }>()
const records = useRecordStore()
const expression = ref('')
const name = ref('')
/** What reductions are to read it as; empty where they are not. */
const role = ref('')
const problem = shallowRef<HypometError | null>(null)
const unit = ref<string | null>(null)
let asked = 0

async function ask(keep: boolean): Promise<DerivedStrip | null> {
  const mine = ++asked
  if (expression.value.trim() === '') {
    problem.value = null
    return null
  }
  try {
    const strip = await records.derive(props.datasetId, {
      expression: expression.value,
      width: Math.max(200, Math.round(props.width)),
      ...props.view,
      name: keep ? name.value : null,
      role: keep && role.value !== '' ? role.value : null,
    })
    if (mine === asked) problem.value = null
    return strip
  } catch (e) {
    if (!isHypometError(e)) throw e
    if (mine === asked) problem.value = e
    return null
  }
}
const draw = useDebounceFn(async () => {
  const strip = await ask(false)
  unit.value = strip?.unit ?? null
  emit('drawn', strip)
}, 200)
watch([expression, () => props.view, () => props.width], () => void draw())
async function keep(): Promise<void> {
  const strip = await ask(true)
  if (!strip?.id) return
  expression.value = name.value = role.value = ''
  emit('drawn', null)
  emit('kept', strip.id)
}
/** The place that a refusal names, under the expression. */
const caret = computed(() =>
  problem.value?.place.column ? `${' '.repeat(Number(problem.value.place.column) - 1)}▲` : '',
)
const field = useTemplateRef<HTMLInputElement>('field')
function insert(symbol: string): void {
  const at = field.value?.selectionStart ?? expression.value.length
  expression.value = expression.value.slice(0, at) + symbol + expression.value.slice(field.value?.selectionEnd ?? at)
  field.value?.focus()
}
</script>

<template>
  <section class="panel">
    <h2 class="mb-2">Derived channel</h2>
    <form class="grid grid-cols-[1fr_11rem_10rem_auto] items-start gap-2" @submit.prevent="keep">
      <div>
        <label class="sr-only" for="derived-expression">Expression</label>
        <input
          id="derived-expression"
          ref="field"
          v-model="expression"
          class="field font-mono text-sm"
          spellcheck="false"
          autocomplete="off"
          placeholder="(vg1 + vg2)/2 - frame"
          :aria-invalid="problem !== null"
          aria-describedby="derived-note"
        />
        <div id="derived-note" aria-live="polite">
          <template v-if="problem">
            <pre v-if="caret" class="m-0 pl-2 font-mono text-sm leading-none text-fail" aria-hidden="true">{{
              caret
            }}</pre>
            <p class="problem">{{ problem.message }}</p></template
          >
          <p v-else-if="unit !== null" class="mt-0.5 text-xs text-quiet">
            in {{ unit === '1' ? 'plain numbers' : unit }}, drawn below
          </p>
        </div>
      </div>
      <div>
        <label class="sr-only" for="derived-name">Name of the new channel</label
        ><input
          id="derived-name"
          v-model.trim="name"
          class="field"
          placeholder="name to keep it by"
          autocomplete="off"
        />
      </div>
      <div>
        <label class="sr-only" for="derived-role">Read by reductions as</label
        ><select id="derived-role" v-model="role" class="field">
          <option value="">not in reductions</option>
          <option v-for="r in roles" :key="r.role" :value="r.role">{{ r.label }}</option>
        </select>
      </div>
      <button class="button-main" :disabled="name === '' || problem !== null || expression.trim() === ''">Keep</button>
    </form>
    <p class="mt-2 flex flex-wrap items-center gap-1 text-xs text-quiet">
      Channels:
      <button
        v-for="c in channels.slice(0, 24)"
        :key="c.id"
        type="button"
        class="button px-1 py-0 font-mono text-xs"
        @click="insert(c.symbol)"
      >
        {{ c.symbol }}</button><span v-if="channels.length > 24">and {{ channels.length - 24 }} more</span>
    </p>
    <p class="mt-1 text-xs text-quiet">
      + − * / ^ and mean, diff, abs, min, max, sqrt, sin, cos, deriv, integ, lowpass(channel, cutoff in Hz); numbers
      with their units, a blank between: 1.27 m.
    </p>
  </section>
</template>
