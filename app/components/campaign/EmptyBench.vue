<script setup lang="ts">
import { FileUp, FlaskConical, Plus } from '@lucide/vue'

/** Where everybody begins: with data of their own, with a campaign to plan, or with the sample. */
const emit = defineEmits<{ create: [] }>()
const dropped = useDroppedFile()
const { problem, run } = useAction()
const { sample, isLoading, load: begin } = useSample(slug => navigateTo(`/campaigns/${slug}`))
const load = () => run(begin)
function take(file: File): void {
  dropped.bring(file)
  void navigateTo('/import')
}
</script>

<template>
  <div class="space-y-3">
    <p class="max-w-prose text-quiet">
      Nothing on the bench yet. A campaign holds the articles under test, their limits and their tests; each test goes
      from its plan or its data to a result with its uncertainty, a verdict and the next change.
    </p>
    <div class="grid gap-3 md:grid-cols-3">
      <section class="panel flex flex-col items-start gap-2 p-5">
        <FileUp class="size-6 text-accent" aria-hidden="true" />
        <h2>I have data already</h2>
        <p class="flex-1 text-sm text-quiet">
          A logger’s file becomes a curve, a result and a verdict. Drop it anywhere on this page.
        </p>
        <FilePicker label="Logger file" class="button-main" @files="take($event[0]!)">Choose a file</FilePicker>
      </section>
      <section class="panel flex flex-col items-start gap-2 p-5">
        <Plus class="size-6 text-accent" aria-hidden="true" />
        <h2>I am planning a test</h2>
        <p class="flex-1 text-sm text-quiet">
          Start a campaign, name the article and its limits, and plan the ladder that is to be climbed.
        </p>
        <button type="button" class="button-main" @click="emit('create')">New campaign</button>
      </section>
      <section class="panel flex flex-col items-start gap-2 p-5">
        <FlaskConical class="size-6 text-accent" aria-hidden="true" />
        <h2>I want to look around</h2>
        <p class="flex-1 text-sm text-quiet">
          A made-up campaign with fifteen kinds of test, half-way through, beside which your own may stand.
        </p>
        <button type="button" class="button-main" :disabled="isLoading" @click="load">
          {{ isLoading ? 'Loading the sample …' : 'Load the sample campaign' }}
        </button>
        <p v-if="isLoading" class="text-xs text-quiet" role="status">
          Its files are imported and reduced here; this takes a minute.
        </p>
        <p v-if="sample.state === 'failed'" class="problem" role="alert">
          The sample was not loaded whole: {{ sample.message }}
        </p>
      </section>
    </div>
    <ProblemNote :problem="problem" />
  </div>
</template>
