<script setup lang="ts">
import { FileUp } from '@lucide/vue'

/** A logger's file, and the question which test it is of. */
const api = useApi()
const { data: campaigns } = await useAsyncData('import-tests', () => api.get('/api/index'))
useTrail().value = [{ name: 'Import' }]
useHead({ title: 'Import · Hypomet' })
const dropped = useDroppedFile()
const words = ref('')
const tests = computed(() =>
  (campaigns.value ?? [])
    .flatMap(c =>
      c.articles.flatMap(a =>
        a.revisions.flatMap(r =>
          r.tests.map(t => ({ id: t.id, title: t.title, article: `${a.name} ${r.label}`, campaign: c.title })),
        ),
      ),
    )
    .toReversed(),
)
const found = computed(() =>
  tests.value.filter(t =>
    words.value
      .toLowerCase()
      .split(/\s+/)
      .every(w => `${t.title} ${t.article} ${t.campaign}`.toLowerCase().includes(w)),
  ),
)
</script>

<template>
  <main class="mx-auto w-full max-w-4xl space-y-3 p-4">
    <h1>Import a logger’s file</h1>
    <FilePicker
      class="panel flex items-center gap-3 border-2 border-dashed"
      label="Logger file"
      @files="dropped = $event[0]!"
    >
      <FileUp class="size-6 text-quiet" aria-hidden="true" />
      <span
        ><span class="font-medium">{{ dropped ? dropped.name : 'Drop a file anywhere, or choose one' }}</span
        ><span class="block text-xs text-quiet">{{
          dropped
            ? 'Now say which test it is of.'
            : 'Text in any dialect, workbooks, Parquet, NumPy, WAV, universal vibration files. ' +
              'What it is understood as is shown before anything is kept.'
        }}</span></span
      >
    </FilePicker>
    <EmptyState
      v-if="tests.length === 0"
      title="No test yet"
      text="A file is of a planned test; make a campaign, an article and a test first."
      action="To the bench"
      to="/"
    />
    <section v-else class="panel">
      <div class="mb-1 flex items-end justify-between gap-3">
        <h2>Which test is it of?</h2>
        <input v-model="words" type="search" class="field w-56" placeholder="Find a test" aria-label="Find a test" />
      </div>
      <table class="data">
        <thead>
          <tr>
            <th>Test</th>
            <th>Article</th>
            <th>Campaign</th>
            <th><span class="sr-only">Import</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="t in found" :key="t.id">
            <td class="font-medium">{{ t.title }}</td>
            <td>{{ t.article }}</td>
            <td class="text-quiet">{{ t.campaign }}</td>
            <td class="text-right">
              <NuxtLink
                :to="`/tests/${t.id}/run`"
                class="button text-xs"
                :aria-label="`Import for ${t.title}, ${t.article}`"
                >{{ dropped ? 'It is of this test' : 'Open' }}</NuxtLink
              >
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="found.length === 0" class="text-sm text-quiet">No test by these words.</p>
    </section>
  </main>
</template>
