<script setup lang="ts">
import type { Candidate } from '@hypomet/core'

/** The decision: label, reasons, and what the next plan like this one should hear. */
const props = defineProps<{ candidate: Candidate | null; from: 'test' | 'revision'; weights: Record<string, number> }>()
const emit = defineEmits<{ close: [] }>()
const { page, store, units, resultKind, resultLabel } = useTest()
const { busy, problem, run } = useAction()
const undo = useUndoStore()
const form = reactive({ label: '', reasons: '', teaches: false, title: '', happened: '', instead: '' })
watch(
  () => props.candidate,
  c => {
    if (c)
      Object.assign(form, {
        label: nextLabel(page.value.revisions.at(-1)!.label),
        reasons: '',
        teaches: false,
        title: '',
        happened: page.value.judgement?.note ?? '',
        instead: '',
      })
  },
)
const accept = () =>
  run(async () => {
    const c = props.candidate!
    const { testId, step } = await store.acceptCandidate({
      ...(c.id === 'chosen' ? { sizes: c.sizes } : { candidateId: c.id }),
      label: form.label,
      from: props.from,
      reasons: form.reasons,
      weights: props.weights,
      ...(form.teaches ? { lesson: { title: form.title, happened: form.happened, instead: form.instead } } : {}),
    })
    undo.did(step, `revision ${form.label} decided`)
    emit('close')
    await navigateTo(`/tests/${testId}/plan`)
  })
</script>

<template>
  <BaseDialog
    :open="candidate !== null"
    wide
    :title="`Make “${candidate?.title}” the next revision?`"
    description="It takes the sizes below, and a test with the same plan whose predictions lock when its first sample comes in. What else stood there is kept with the decision."
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
        <label class="block"
          ><span class="label">Revision</span
          ><input v-model="form.label" class="field" aria-label="Label of the revision"
        /></label>
        <label class="block"
          ><span class="label">Why this one</span
          ><input
            v-model="form.reasons"
            class="field"
            placeholder="Lightest that keeps the mould"
            aria-label="Why this one"
        /></label>
      </div>
      <fieldset class="rounded-md border border-line p-2">
        <label class="flex items-center gap-2 text-sm"
          ><input v-model="form.teaches" type="checkbox" />Keep a lesson from it: plans of this kind with these features
          will show it</label
        >
        <div v-if="form.teaches" class="mt-2 grid grid-cols-1 gap-2">
          <input
            v-model="form.title"
            class="field"
            aria-label="Lesson"
            placeholder="Thin caps bend more than the supplier’s modulus says"
          /><input v-model="form.happened" class="field" aria-label="What happened" placeholder="What happened" /><input
            v-model="form.instead"
            class="field"
            aria-label="Do instead"
            placeholder="Do instead"
          />
        </div>
      </fieldset>
      <ProblemNote :problem="problem" />
      <div class="flex justify-end gap-2">
        <button type="button" class="button" @click="emit('close')">Not yet</button
        ><button class="button-main" :disabled="busy">Make revision {{ form.label }}</button>
      </div>
    </form>
  </BaseDialog>
</template>
