<script setup lang="ts">
import { QUESTIONS, type Answer, type Evidence } from '@hypomet/core'

/** The questions that come before a signature, each with what the record says to it. */
const props = defineProps<{ evidence: Evidence | null }>()
const answers = defineModel<Record<string, Answer>>({ required: true })
const set = (key: string, part: Partial<Answer>) => {
  answers.value = { ...answers.value, [key]: { says: 'yes', note: '', ...answers.value[key], ...part } }
}
/** No where something stands against it, with that as its reason; yes elsewhere. */
function asRecorded(): void {
  const e = props.evidence
  if (e)
    answers.value = Object.fromEntries(
      QUESTIONS.map(q => [
        q.key,
        e[q.key].against.length > 0
          ? { says: 'no' as const, note: e[q.key].against.slice(0, 2).join(' ') }
          : { says: 'yes' as const, note: '' },
      ]),
    )
}
const open = computed(() => QUESTIONS.filter(q => !answers.value[q.key]).length)
</script>

<template>
  <section class="space-y-2" aria-labelledby="validity">
    <div class="flex items-baseline justify-between gap-2">
      <h2 id="validity">Is the test itself valid?</h2>
      <button v-if="evidence" type="button" class="text-xs text-accent underline" @click="asRecorded">
        Answer as recorded
      </button>
    </div>
    <div v-for="q in QUESTIONS" :key="q.key" class="border-t border-line/60 pt-1.5" :data-question="q.key">
      <div class="flex items-start justify-between gap-2">
        <p class="text-sm">{{ q.text }}</p>
        <div class="flex shrink-0 gap-2 text-sm">
          <label v-for="says in ['yes', 'no'] as const" :key="says" class="flex items-center gap-1"
            ><input
              type="radio"
              :name="`q-${q.key}`"
              :aria-label="`${q.text} ${says}`"
              :checked="answers[q.key]?.says === says"
              @change="set(q.key, { says })"
            />{{ says }}</label
          >
        </div>
      </div>
      <ul
        v-if="evidence"
        class="mt-0.5 max-h-24 overflow-y-auto text-xs"
        tabindex="0"
        :aria-label="`What the record says: ${q.text}`"
      >
        <li v-for="line in evidence[q.key].against" :key="line" class="text-open">{{ line }}</li>
        <li v-for="line in evidence[q.key].for" :key="line" class="text-quiet">{{ line }}</li>
      </ul>
      <input
        v-if="answers[q.key]?.says === 'no'"
        class="field mt-1 text-sm"
        :aria-label="`What that means: ${q.text}`"
        placeholder="What that means for the results"
        :value="answers[q.key]!.note"
        @input="set(q.key, { note: ($event.target as HTMLInputElement).value })"
      />
    </div>
    <p v-if="open > 0" class="text-xs text-quiet">{{ open }} not answered.</p>
  </section>
</template>
