<script setup lang="ts">
import type { QuantityInput, ResultDeclaration, UnitPreference } from '@hypomet/core'

const props = defineProps<{ open: boolean; articleId: number; results: Record<string, ResultDeclaration>; prefer: UnitPreference }>()
const emit = defineEmits<{ close: []; saved: [] }>()
const api = useApi()
const { busy, problem, run } = useAction()

const limitable = computed(() => Object.entries(props.results).filter(([, r]) => r.limited))
const form = reactive({ name: '', quantity: '', comparator: 'atLeast' as 'atLeast' | 'atMost', level: 'limit', source: '', entered: null as QuantityInput | null })
watch(() => props.open, isOpen => isOpen && (choose(limitable.value[0]![0]), problem.value = null), { immediate: true })

function choose(key: string): void {
  const r = props.results[key]!
  Object.assign(form, { quantity: key, comparator: r.limited, name: r.label, entered: null })
}

const save = () => run(async () => {
  await api.post(`/api/articles/${props.articleId}/limits`, form)
  emit('saved')
  emit('close')
})
const kind = computed(() => props.results[form.quantity]?.kind ?? 'ratio')
const at = (path: string) => (problem.value?.place.path?.startsWith(path) ? problem.value.message : undefined)
</script>

<template>
  <BaseDialog :open="open" title="New limit" description="A result, the side it must stay on, and where that comes from." @close="emit('close')">
    <form class="space-y-3" @submit.prevent="save">
      <div class="grid grid-cols-2 gap-3">
        <label><span class="label">Result</span><select :value="form.quantity" class="field" @change="choose(($event.target as HTMLSelectElement).value)"><option v-for="[key, r] in limitable" :key="key" :value="key">{{ r.label }}</option></select></label>
        <label><span class="label">Name</span><input v-model="form.name" class="field"></label>
        <label><span class="label">Must be</span><select v-model="form.comparator" class="field"><option value="atLeast">at least</option><option value="atMost">at most</option></select></label>
        <QuantityField v-model="form.entered" :kind="kind" :prefer="prefer" label="Value, with unit" :problem="at('entered')" />
        <label><span class="label">Level</span><select v-model="form.level" class="field"><option value="service">service</option><option value="limit">limit</option><option value="ultimate">ultimate</option><option value="required-factor">required factor</option></select></label>
        <label><span class="label">Source</span><input v-model="form.source" class="field" placeholder="Where the number comes from"></label>
      </div>
      <ProblemNote v-if="!at('entered')" :problem="problem" />
      <div class="flex justify-end gap-2"><button type="button" class="button" @click="emit('close')">Cancel</button><button class="button-main" :disabled="busy || form.entered === null">Add limit</button></div>
    </form>
  </BaseDialog>
</template>
