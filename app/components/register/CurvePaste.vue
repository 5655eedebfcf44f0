<script setup lang="ts">
import {
  isHypometError,
  isOpenNumber,
  preferredUnit,
  readCurve,
  type CurveOutline,
  type HypometError,
  type PredictedCurve,
  type UnitPreference,
} from '@hypomet/core'

/** Two columns pasted or from a file, as a curve. */
const props = defineProps<{ outline: CurveOutline; prefer: UnitPreference }>()
const emit = defineEmits<{ curve: [curve: PredictedCurve] }>()
const zone = useTemplateRef<HTMLElement>('zone')
const text = ref('')
const problem = shallowRef<HypometError | null>(null)
const curve = shallowRef<PredictedCurve | null>(null)
const id = useId()
watch([text, () => props.prefer.numbers], ([typed]) => {
  problem.value = null
  curve.value = null
  if (typed.trim() === '') return
  try {
    curve.value = readCurve(typed, props.outline, props.prefer)
  } catch (e) {
    if (!isHypometError(e)) throw e
    problem.value = e
  }
})
const openCell = computed(() =>
  problem.value ? (text.value.split(/[\t;\n]|,\s|\s/).find(c => isOpenNumber(c)) ?? '') : '',
)
watch(curve, c => c && emit('curve', c))
async function take(file: File | undefined): Promise<void> {
  if (file) text.value = await file.text()
}
const unit = (axis: CurveOutline['x']) => preferredUnit(axis.kind, { prefer: props.prefer })
</script>

<template>
  <div ref="zone">
    <label :for="id" class="label"
      >{{ outline.title }}: paste two columns, {{ outline.x.label.toLowerCase() }} ({{ unit(outline.x) }}) and
      {{ outline.y.label.toLowerCase() }} ({{ unit(outline.y) }}); a line with names or units may stand on top</label
    >
    <textarea
      :id="id"
      v-model="text"
      class="field font-mono text-xs"
      rows="4"
      spellcheck="false"
      :aria-invalid="problem !== null"
    />
    <NumberQuestion v-if="openCell" :text="openCell" />
    <div class="flex items-center gap-2">
      <FilePicker
        class="button text-xs"
        label="Curve from a file"
        accept=".csv,.txt,.tsv"
        :zone="zone"
        @files="take($event[0])"
        >From a file</FilePicker
      ><span v-if="curve" class="text-xs text-quiet">{{ curve.x.length }} points</span>
    </div>
    <ProblemNote class="mt-1" :problem="problem" />
  </div>
</template>
