<script setup lang="ts">
import { isHypometError, readCalibration } from '@hypomet/core'
import type { Calibration } from '~/composables/import/importMapping'

/** From a column's readings to numbers in its unit: a factor and an offset, or a table of points. */
const props = defineProps<{ open: boolean; channel: string; unit: string; calibration: Calibration }>()
const emit = defineEmits<{ close: []; set: [calibration: Calibration] }>()
const scale = ref('1')
const offset = ref('0')
const pasted = ref('')
watch(
  () => props.open,
  open => {
    if (!open) return
    scale.value = String(props.calibration.scale ?? 1)
    offset.value = String(props.calibration.offset ?? 0)
    pasted.value = props.calibration.table?.map(p => p.join('\t')).join('\n') ?? ''
  },
)
const table = computed(() => {
  if (pasted.value.trim() === '') return { points: null, problem: '' }
  try {
    return { points: readCalibration(pasted.value), problem: '' }
  } catch (e) {
    if (!isHypometError(e)) throw e
    return { points: null, problem: e.message }
  }
})
const sound = computed(
  () =>
    table.value.problem === '' &&
    (table.value.points !== null ||
      (Number.isFinite(typedNumber(scale.value)) &&
        typedNumber(scale.value) !== 0 &&
        Number.isFinite(typedNumber(offset.value)))),
)
function set(): void {
  emit(
    'set',
    table.value.points
      ? { table: table.value.points }
      : {
          ...(typedNumber(scale.value) === 1 ? {} : { scale: typedNumber(scale.value) }),
          ...(typedNumber(offset.value) === 0 ? {} : { offset: typedNumber(offset.value) }),
        },
  )
  emit('close')
}
const about = computed(
  () =>
    `What a reading in the file becomes${props.unit ? `; the unit is ${props.unit}` : ''}. ` +
    'The file’s own numbers are kept as they are.',
)
</script>

<template>
  <BaseDialog :open="open" :title="`Calibration of ${channel}`" :description="about" @close="emit('close')">
    <form class="space-y-3" @submit.prevent="set">
      <div class="flex items-end gap-2 text-sm">
        <label
          ><span class="label">Reading ×</span
          ><input v-model="scale" class="field w-32" inputmode="decimal" :disabled="table.points !== null" /></label
        ><span class="pb-1">+</span>
        <label
          ><span class="label">Offset</span
          ><input v-model="offset" class="field w-32" inputmode="decimal" :disabled="table.points !== null" /></label
        ><span class="pb-1 text-quiet">{{ unit }}</span>
      </div>
      <label class="block"
        ><span class="label">Or a table: reading and value on each line, as pasted from a sheet</span
        ><textarea
          v-model="pasted"
          rows="6"
          class="field font-mono text-sm"
          spellcheck="false"
          :aria-invalid="table.problem !== ''"
        />
      </label>
      <p v-if="table.problem" class="problem">{{ table.problem }}</p>
      <p v-else-if="table.points" class="text-xs text-quiet">
        {{ table.points.length }} points, straight lines between them; beyond them the end pieces are extrapolated, and
        said so.
      </p>
      <div class="flex justify-end gap-2">
        <button type="button" class="button" @click="emit('close')">Leave it</button
        ><button class="button-main" :disabled="!sound">Use it</button>
      </div>
    </form>
  </BaseDialog>
</template>
