<script setup lang="ts">
import type { Candidate } from '@hypomet/core'
import { useForm } from 'vee-validate'
import * as z from 'zod'

/** The decision: label, reasons, and what the next plan like this one should hear. */
const props = defineProps<{ candidate: Candidate | null; from: 'test' | 'revision'; weights: Record<string, number> }>()
const emit = defineEmits<{ close: [] }>()
const { page, store, units, resultKind, resultLabel } = useTest()
const { busy, problem, run } = useAction()
const undo = useUndoStore()
const asNew = () => ({
  label: nextLabel(page.value.revisions.at(-1)!.label),
  reasons: '',
  teaches: false,
  title: '',
  happened: page.value.judgement?.note ?? '',
  instead: '',
})
const decision = z
  .object({
    label: z.string().trim().min(1, 'A revision needs a label.'),
    reasons: z.string(),
    teaches: z.boolean(),
    title: z.string(),
    happened: z.string(),
    instead: z.string(),
  })
  .refine(d => !d.teaches || d.title.trim() !== '', { path: ['title'], message: 'A lesson needs a title.' })
const {
  handleSubmit,
  resetForm,
  setFieldError,
  defineField,
  values: form,
} = useForm({
  validationSchema: typedSchema(decision),
  initialValues: asNew(),
})
const [teaches] = defineField('teaches')
watch(
  () => props.candidate,
  c => c && resetForm({ values: asNew() }),
)
watch(problem, p => p?.place.path === 'label' && setFieldError('label', p.message))
const accept = handleSubmit(given =>
  run(async () => {
    const c = props.candidate!
    const { testId, step } = await store.acceptCandidate({
      ...(c.id === 'chosen' ? { sizes: c.sizes } : { candidateId: c.id }),
      label: given.label,
      from: props.from,
      reasons: given.reasons,
      weights: props.weights,
      ...(given.teaches ? { lesson: { title: given.title, happened: given.happened, instead: given.instead } } : {}),
    })
    undo.did(step, `revision ${given.label} decided`)
    emit('close')
    await navigateTo(`/tests/${testId}/plan`)
  }),
)
</script>

<template>
  <BaseDialog
    :open="candidate !== null"
    wide
    :title="`Make “${candidate?.title}” the next revision?`"
    description="It takes the sizes below, and a test with the same plan whose predictions lock when its first
      sample comes in. What else stood there is kept with the decision."
    @close="emit('close')"
  >
    <form v-if="candidate" class="space-y-3" @submit.prevent="accept">
      <div class="grid grid-cols-2 gap-4">
        <ul class="text-sm">
          <li v-for="k in candidate.changes" :key="k.property">
            {{ k.label }}: {{ units.show(k.from, k.kind, { digits: 4 }) }} →
            <strong>{{ units.show(k.to, k.kind, { digits: 4 }) }}</strong>
          </li>
        </ul>
        <table class="data">
          <tbody>
            <tr v-for="(p, key) in candidate.predictions" :key="key">
              <td>{{ resultLabel(String(key)) }}</td>
              <td class="number text-predicted">{{ units.result(p, resultKind(String(key))) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="grid grid-cols-[6rem_1fr] gap-2">
        <TextField name="label" label="Revision" />
        <TextField name="reasons" label="Why this one" placeholder="Lightest that keeps the mould" />
      </div>
      <fieldset class="rounded-md border border-line p-2">
        <label class="flex items-center gap-2 text-sm"
          ><input v-model="teaches" type="checkbox" />Keep a lesson from it: plans of this kind with these features will
          show it</label
        >
        <div v-if="teaches" class="mt-2 grid grid-cols-1 gap-2">
          <TextField name="title" label="Lesson" placeholder="Thin caps bend more than the supplier’s modulus says" />
          <TextField name="happened" label="What happened" />
          <TextField name="instead" label="Do instead" />
        </div>
      </fieldset>
      <ProblemNote v-if="problem?.place.path !== 'label'" :problem="problem" />
      <div class="flex justify-end gap-2">
        <button type="button" class="button" @click="emit('close')">Not yet</button
        ><button class="button-main" :disabled="busy">Make revision {{ form.label }}</button>
      </div>
    </form>
  </BaseDialog>
</template>
