<script setup lang="ts">
import { families, quantityToSi, type QuantityInput, type UnitPreference } from '@hypomet/core'
import type { z } from 'zod'

/** A new article with its first revision, or a new revision of one; the fields come from the family's own schema. */
const props = defineProps<{ open: boolean; campaignId: number; prefer: UnitPreference; article?: { id: number; name: string; family: string; last: { id: number; label: string; properties: Record<string, unknown> } } }>()
const emit = defineEmits<{ close: []; saved: [] }>()
const api = useApi()
const { busy, problem, run } = useAction()

const family = computed(() => families[props.article?.family ?? 'static']!)
const sections = computed(() => family.value.stages.article.options as { shape: { section: { value: string } } }[])
const form = reactive({ name: '', label: 'A', changed: '', why: '', mass: null as QuantityInput | null, section: 'box', properties: {} as Record<string, QuantityInput | null> })
const fields = computed(() => schemaFields(sections.value.find(s => s.shape.section.value === form.section) as unknown as z.ZodType))

watch(() => props.open, isOpen => {
  if (!isOpen) return
  problem.value = null
  const last = props.article?.last
  const { section = 'box', ...properties } = (last?.properties ?? {}) as { section?: string }
  Object.assign(form, { name: '', label: last ? nextLabel(last.label) : 'A', changed: '', why: '', mass: null, section, properties: { ...properties } })
})

const nextLabel = (label: string) => (/^[A-Y]$/.test(label) ? String.fromCharCode(label.charCodeAt(0) + 1) : `${label}2`)

const save = () => run(async () => {
  const mass = form.mass === null ? null : typeof form.mass === 'number' ? form.mass : quantityToSi(form.mass, 'mass')
  const revision = { label: form.label, changed: form.changed, why: form.why, mass, properties: { section: form.section, ...Object.fromEntries(fields.value.map(f => [f.key, form.properties[f.key]]).filter(([, v]) => v != null)) } }
  if (props.article) await api.post(`/api/articles/${props.article.id}/revisions`, { ...revision, parentId: props.article.last.id })
  else await api.post('/api/articles', { campaignId: props.campaignId, name: form.name, family: family.value.id, revision })
  emit('saved')
  emit('close')
})
const at = (key: string) => (problem.value?.place.path?.endsWith(`properties.${key}`) ? problem.value.message : undefined)
const placed = computed(() => fields.value.some(f => at(f.key)))
</script>

<template>
  <BaseDialog :open="open" wide :title="article ? `New revision of ${article.name}` : 'New article'" description="What is needed to calculate it. Numbers with their units, as you would write them." @close="emit('close')">
    <form class="space-y-3" @submit.prevent="save">
      <div class="grid grid-cols-3 gap-3">
        <label v-if="!article" class="col-span-2"><span class="label">Article</span><input v-model="form.name" class="field" placeholder="Hanger arm, mast, …"></label>
        <label><span class="label">Revision</span><input v-model="form.label" class="field"></label>
        <template v-if="article">
          <label><span class="label">What changed</span><input v-model="form.changed" class="field"></label>
          <label><span class="label">Why</span><input v-model="form.why" class="field"></label>
        </template>
        <label><span class="label">Section</span><select v-model="form.section" class="field"><option v-for="s in sections" :key="s.shape.section.value" :value="s.shape.section.value">{{ s.shape.section.value }}</option></select></label>
        <QuantityField v-model="form.mass" kind="mass" :prefer="prefer" label="Mass as weighed (may wait)" optional />
        <QuantityField v-for="f in fields" :key="f.key" v-model="form.properties[f.key]" :kind="f.kind!" :prefer="prefer" :label="f.title" :problem="at(f.key)" />
      </div>
      <ProblemNote v-if="!placed" :problem="problem" />
      <div class="flex justify-end gap-2"><button type="button" class="button" @click="emit('close')">Cancel</button><button class="button-main" :disabled="busy">{{ article ? 'Add revision' : 'Add article' }}</button></div>
    </form>
  </BaseDialog>
</template>
