<script setup lang="ts">
import { ImagePlus, StickyNote } from '@lucide/vue'

/** What happened and when, with notes and pictures pinned to the moment. */
const { page, store, units } = useTest()
const runs = useRunStore()
const run = computed(() => page.value.runs[0] ?? null)
const { busy, problem, run: act } = useAction()
const at = ref('')
const note = ref('')
const opened = ref<number | null>(null)
const tagOf = (t: number) => `at ${t.toFixed(1)} s`
const kind = computed(() => page.value.view?.commanded.kind ?? 'force')
const pin = () =>
  act(async () => {
    await runs.note(run.value!.id, { t: typedNumber(at.value), note: note.value })
    at.value = note.value = ''
    await store.refresh()
  })
const events = computed(() => run.value?.events.toSorted((a, b) => a.t - b.t) ?? [])
</script>

<template>
  <section v-if="run" class="panel" data-pins>
    <h2 class="mb-1">When it happened</h2>
    <ol v-if="events.length > 0" class="max-h-64 overflow-y-auto text-sm" tabindex="0" aria-label="Events of the run">
      <li v-for="e in events" :key="e.id" class="border-b border-line/60 py-0.5">
        <div class="flex items-baseline gap-2">
          <span class="w-16 shrink-0 text-right text-quiet">{{ e.t.toFixed(1) }} s</span
          ><span class="shrink-0 font-medium">{{ e.kind }}</span>
          <span class="min-w-0 text-quiet"
            >{{ e.value === null ? '' : units.show(e.value, kind, { digits: 3 }) }} {{ e.note }}</span
          >
          <span class="ml-auto shrink-0 text-xs text-quiet">{{ e.by }}</span>
          <button
            type="button"
            class="button px-1 py-0.5"
            :aria-label="`Pictures at ${e.t.toFixed(1)} s`"
            :aria-expanded="opened === e.id"
            @click="opened = opened === e.id ? null : e.id"
          >
            <ImagePlus class="size-4" aria-hidden="true" />
          </button>
        </div>
        <AttachmentStrip
          v-if="opened === e.id"
          :id="page.test.id"
          entity="test"
          :tag="tagOf(e.t)"
          :title="`Pictures at ${e.t.toFixed(1)} s`"
          class="py-1 pl-18"
        />
      </li>
    </ol>
    <p v-else class="text-sm text-quiet">The record came from a file: nothing was noted while it ran.</p>
    <form class="mt-2 flex items-center gap-2" @submit.prevent="pin">
      <input
        v-model="at"
        class="field w-24"
        inputmode="decimal"
        aria-label="At, seconds"
        placeholder="12.5 s"
        required
      /><input v-model="note" class="field" aria-label="What was seen then" placeholder="What was seen then" required />
      <button class="button shrink-0" :disabled="busy">
        <StickyNote class="size-4" aria-hidden="true" />Pin a note
      </button>
    </form>
    <ProblemNote :problem="problem" />
  </section>
</template>
