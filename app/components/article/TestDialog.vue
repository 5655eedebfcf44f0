<script setup lang="ts">
const props = defineProps<{ open: boolean; revisions: { id: number; label: string }[] }>()
const emit = defineEmits<{ close: [] }>()
const campaigns = useCampaignStore()
const undo = useUndoStore()
const { busy, problem, run } = useAction()
const form = reactive({ title: '', revisionId: 0 })
watch(
  () => props.open,
  isOpen => isOpen && Object.assign(form, { title: '', revisionId: props.revisions.at(-1)?.id ?? 0 }),
  { immediate: true },
)

const create = () =>
  run(async () => {
    const { id, step } = await campaigns.createTest(form.revisionId, { title: form.title })
    undo.did(step, `new test “${form.title}”`)
    emit('close')
    await navigateTo(`/tests/${id}/plan`)
  })
</script>

<template>
  <BaseDialog :open="open" title="New test" @close="emit('close')">
    <form class="space-y-3" @submit.prevent="create">
      <label class="block"
        ><span class="label">Title</span
        ><input v-model="form.title" class="field" placeholder="Ladder to ultimate load"
      /></label>
      <label class="block"
        ><span class="label">Revision</span
        ><select v-model="form.revisionId" class="field">
          <option v-for="r in revisions" :key="r.id" :value="r.id">{{ r.label }}</option>
        </select></label
      >
      <ProblemNote :problem="problem" />
      <div class="flex justify-end gap-2">
        <button type="button" class="button" @click="emit('close')">Cancel</button
        ><button class="button-main" :disabled="busy">Plan it</button>
      </div>
    </form>
  </BaseDialog>
</template>
