<script setup lang="ts">
import type { Kind, QuantityInput, UnitPreference } from '@hypomet/core'

const props = defineProps<{ open: boolean; prefer: UnitPreference }>()
const emit = defineEmits<{ close: []; saved: [] }>()
const api = useApi()
const { busy, problem, run } = useAction()
const empty = () => ({ name: '', kind: 'force' as Kind, calibrationDue: '', fullScale: null as QuantityInput | null, certificate: null as QuantityInput | null, linearity: null as QuantityInput | null, hysteresis: null as QuantityInput | null, repeatability: null as QuantityInput | null })
const form = reactive(empty())
watch(() => props.open, isOpen => isOpen && (Object.assign(form, empty()), problem.value = null))
watch(() => form.kind, () => Object.assign(form, { fullScale: null, certificate: null }))

const save = () => run(async () => {
  const { name, kind, calibrationDue, certificate, ...rest } = form
  const specification = { ...Object.fromEntries(Object.entries(rest).filter(([, v]) => v !== null)), ...(certificate === null ? {} : { certificate: { U: certificate, k: 2 } }) }
  await api.post('/api/sensors', { name, kind, calibrationDue: calibrationDue || null, specification })
  emit('saved')
  emit('close')
})
const kinds = [{ value: 'force', label: 'Force' }, { value: 'length', label: 'Displacement' }, { value: 'strain', label: 'Strain' }]
</script>

<template>
  <BaseDialog :open="open" title="New sensor" description="From its data sheet and its certificate." @close="emit('close')">
    <form class="space-y-3" @submit.prevent="save">
      <div class="grid grid-cols-2 gap-3">
        <label><span class="label">Name</span><input v-model="form.name" class="field"></label>
        <label><span class="label">Measures</span><select v-model="form.kind" class="field"><option v-for="k in kinds" :key="k.value" :value="k.value">{{ k.label }}</option></select></label>
        <QuantityField v-model="form.fullScale" :kind="form.kind" :prefer="prefer" label="Full scale" />
        <QuantityField v-model="form.certificate" :kind="form.kind" :prefer="prefer" label="Calibration U (k = 2)" optional />
        <QuantityField v-model="form.linearity" kind="ratio" :prefer="{ ratio: '%' }" label="Linearity, % of full scale" optional />
        <QuantityField v-model="form.hysteresis" kind="ratio" :prefer="{ ratio: '%' }" label="Hysteresis, % of full scale" optional />
        <QuantityField v-model="form.repeatability" kind="ratio" :prefer="{ ratio: '%' }" label="Repeatability, % of full scale" optional />
        <label><span class="label">Calibration due</span><input v-model="form.calibrationDue" type="date" class="field"></label>
      </div>
      <ProblemNote :problem="problem" />
      <div class="flex justify-end gap-2"><button type="button" class="button" @click="emit('close')">Cancel</button><button class="button-main" :disabled="busy">Add sensor</button></div>
    </form>
  </BaseDialog>
</template>
