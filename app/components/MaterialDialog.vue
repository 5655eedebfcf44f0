<script setup lang="ts">
import { material, type QuantityInput, type UnitPreference } from '@hypomet/core'

const props = defineProps<{ open: boolean; slug: string; prefer: UnitPreference }>()
const emit = defineEmits<{ close: []; saved: [] }>()
const api = useApi()
const { busy, problem, run } = useAction()
const fields = schemaFields(material)
const form = reactive({ name: '', leadTimeDays: 0, values: {} as Record<string, QuantityInput | null> })
watch(() => props.open, isOpen => isOpen && (Object.assign(form, { name: '', leadTimeDays: 0, values: {} }), problem.value = null))

const save = () => run(async () => {
  const values = Object.fromEntries(Object.entries(form.values).filter(([, v]) => v !== null))
  await api.post(`/api/campaigns/${props.slug}/materials`, { name: form.name, leadTimeDays: Number(form.leadTimeDays) || 0, ...values })
  emit('saved')
  emit('close')
})
const at = (key: string) => (problem.value?.place.path === key ? problem.value.message : undefined)
</script>

<template>
  <BaseDialog :open="open" title="New material" description="Candidates may be made of it; measured values are better than a supplier’s." @close="emit('close')">
    <form class="space-y-3" @submit.prevent="save">
      <div class="grid grid-cols-2 gap-3">
        <label><span class="label">Name</span><input v-model="form.name" class="field"></label>
        <label><span class="label">Lead time, days</span><input v-model="form.leadTimeDays" type="number" min="0" class="field"></label>
        <QuantityField v-for="f in fields" :key="f.key" v-model="form.values[f.key]" :kind="f.kind!" :prefer="prefer" :label="f.title" :problem="at(f.key)" />
      </div>
      <ProblemNote v-if="!fields.some(f => at(f.key))" :problem="problem" />
      <div class="flex justify-end gap-2"><button type="button" class="button" @click="emit('close')">Cancel</button><button class="button-main" :disabled="busy">Add material</button></div>
    </form>
  </BaseDialog>
</template>
