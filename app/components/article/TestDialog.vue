<script setup lang="ts">
import { useForm } from 'vee-validate'
import * as z from 'zod'

const props = defineProps<{ open: boolean; revisions: { id: number; label: string }[] }>()
const emit = defineEmits<{ close: [] }>()
const campaigns = useCampaignStore()
const undo = useUndoStore()
const { busy, problem, run } = useAction()
const asNew = () => ({ title: '', revisionId: String(props.revisions.at(-1)?.id ?? '') })
const { handleSubmit, resetForm } = useForm({
  validationSchema: typedSchema(
    z.object({
      title: z.string().trim().min(1, 'A test needs a title.'),
      revisionId: z.string().min(1, 'A test is of a revision.'),
    }),
  ),
  initialValues: asNew(),
})
watch(
  () => props.open,
  isOpen => isOpen && resetForm({ values: asNew() }),
)

const create = handleSubmit(({ title, revisionId }) =>
  run(async () => {
    const { id, step } = await campaigns.createTest(Number(revisionId), { title })
    undo.did(step, `new test “${title}”`)
    emit('close')
    await navigateTo(`/tests/${id}/plan`)
  }),
)
</script>

<template>
  <BaseDialog :open="open" title="New test" @close="emit('close')">
    <form class="space-y-3" @submit.prevent="create">
      <TextField name="title" label="Title" placeholder="Ladder to ultimate load" />
      <TextField
        name="revisionId"
        label="Revision"
        :options="revisions.map(r => ({ value: String(r.id), label: r.label }))"
      />
      <ProblemNote :problem="problem" />
      <div class="flex justify-end gap-2">
        <button type="button" class="button" @click="emit('close')">Cancel</button
        ><button class="button-main" :disabled="busy">Plan it</button>
      </div>
    </form>
  </BaseDialog>
</template>
