<script setup lang="ts">
import { useForm } from 'vee-validate'
import * as z from 'zod'

const props = defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: [] }>()
const campaigns = useCampaignStore()
const undo = useUndoStore()
const { busy, problem, run } = useAction()

const { handleSubmit, resetForm } = useForm({
  validationSchema: typedSchema(
    z.object({
      title: z.string().trim().min(1, 'A campaign needs a title.'),
      purpose: z.string(),
      due: z.string(),
      system: z.enum(['metric', 'imperial']),
      rule: z.enum(['guarded', 'simple']),
      convention: z.enum(['margin-of-safety', 'reserve-factor', 'factor-of-safety']),
    }),
  ),
  initialValues: { title: '', purpose: '', due: '', system: 'metric', rule: 'guarded', convention: 'margin-of-safety' },
})
watch(
  () => props.open,
  isOpen => isOpen && resetForm(),
)

const create = handleSubmit(values =>
  run(async () => {
    const made = await campaigns.create({
      ...values,
      due: values.due || null,
    })
    undo.did(made.step, `new campaign “${values.title}”`)
    emit('close')
    await navigateTo(`/campaigns/${made.slug}`)
  }),
)
</script>

<template>
  <BaseDialog
    :open="open"
    title="New campaign"
    description="What is to be shown, by when, and how results are read."
    @close="emit('close')"
  >
    <form class="space-y-3" @submit.prevent="create">
      <TextField name="title" label="Title" />
      <TextField name="purpose" label="Purpose" placeholder="What the tests are to show" />
      <div class="grid grid-cols-2 gap-3">
        <TextField name="due" label="Due" type="date" />
        <TextField
          name="system"
          label="Units shown"
          :options="[
            { value: 'metric', label: 'kN, mm, MPa' },
            { value: 'imperial', label: 'lbf, in, psi' },
          ]"
        />
        <TextField
          name="rule"
          label="Decision"
          :options="[
            { value: 'guarded', label: 'Guarded: value with its uncertainty' },
            { value: 'simple', label: 'Simple: value alone' },
          ]"
        />
        <TextField
          name="convention"
          label="Margins as"
          :options="[
            { value: 'margin-of-safety', label: 'Margin of safety' },
            { value: 'reserve-factor', label: 'Reserve factor' },
            { value: 'factor-of-safety', label: 'Factor of safety' },
          ]"
        />
      </div>
      <ProblemNote :problem="problem" />
      <div class="flex justify-end gap-2">
        <button type="button" class="button" @click="emit('close')">Cancel</button
        ><button class="button-main" :disabled="busy">Create</button>
      </div>
    </form>
  </BaseDialog>
</template>
