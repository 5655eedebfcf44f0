<script setup lang="ts">
import { Lightbulb } from '@lucide/vue'
import type { FiringRow } from '~/types/api'

/** Lessons that fired on this plan, each with its answer: applied, does not apply because, accepted risk by. */
const props = defineProps<{ firings: FiringRow[]; campaignId: number; fixed: boolean }>()
const emit = defineEmits<{ answered: [] }>()
const registers = useRegistersStore()
const undo = useUndoStore()
const person = usePerson()
const { busy, problem, run } = useAction()
const asking = ref<{ id: number; answer: 'applied' | 'does-not-apply' | 'risk-accepted' } | null>(null)
const reason = ref('')
const open = computed(() => props.firings.filter(f => f.answer === null).length)
const labels = { applied: 'Applied', 'does-not-apply': 'Does not apply because', 'risk-accepted': 'Accepted risk by' }

function ask(f: FiringRow, answer: keyof typeof labels): void {
  asking.value = { id: f.id, answer }
  reason.value = answer === 'risk-accepted' ? person.value : ''
}
const give = (f: FiringRow, answer: keyof typeof labels | null, why = '') =>
  run(async () => {
    const { step } = await registers.write('firing', {
      campaignId: props.campaignId,
      changes: [{ id: f.id, version: f.version, values: { answer, reason: why } }],
    })
    asking.value = null
    undo.did(step, answer ? `lesson “${f.lesson.title}” answered` : `lesson “${f.lesson.title}” opened again`)
    emit('answered')
  })
</script>

<template>
  <section v-if="firings.length > 0" :class="['panel', open > 0 ? 'border-open' : '']" aria-label="Lessons">
    <h2 class="mb-1 flex items-center gap-1.5">
      <Lightbulb class="size-4" aria-hidden="true" />Lessons that fire on this plan<span
        v-if="open > 0"
        class="normal-case tracking-normal text-open"
        >· {{ open }} {{ open === 1 ? 'wants' : 'want' }} an answer before the run</span
      >
    </h2>
    <ul class="divide-y divide-line">
      <li v-for="f in firings" :key="f.id" class="py-1.5" :data-lesson="f.lesson.title">
        <div class="flex items-start justify-between gap-3">
          <div class="min-w-0">
            <p>
              <NuxtLink :to="`/lessons/${f.lessonId}`" class="font-medium">{{ f.lesson.title }}</NuxtLink>{{ ' ' }}
              <span class="text-xs text-quiet">fires by {{ f.reasons.join(', ') }}</span>
            </p>
            <p class="text-sm">{{ f.lesson.instead }}</p>
            <p
              v-if="f.answer"
              :class="['text-sm', f.answer === 'risk-accepted' ? 'font-semibold text-open' : 'text-pass']"
            >
              {{ labels[f.answer] }}{{ f.reason ? `: ${f.reason}` : '' }}
              <span class="text-xs font-normal text-quiet"
                >{{ f.by }}, {{ f.answeredAt ? moment(f.answeredAt) : '' }}</span
              >
            </p>
          </div>
          <div v-if="!fixed" class="flex shrink-0 gap-1">
            <template v-if="f.answer === null"
              ><button
                v-for="(label, answer) in labels"
                :key="answer"
                type="button"
                class="button text-xs"
                :disabled="busy"
                :aria-label="`${label}: ${f.lesson.title}`"
                @click="ask(f, answer)"
              >
                {{ label }}{{ answer === 'applied' ? '' : ' …' }}
              </button></template
            >
            <button
              v-else
              type="button"
              class="button text-xs"
              :disabled="busy"
              :aria-label="`Answer again: ${f.lesson.title}`"
              @click="give(f, null)"
            >
              Answer again
            </button>
          </div>
        </div>
        <form v-if="asking?.id === f.id" class="mt-1 flex gap-2" @submit.prevent="give(f, asking!.answer, reason)">
          <label class="flex-1"
            ><span class="sr-only">{{ labels[asking.answer] }}</span
            ><input
              v-model="reason"
              v-focus
              class="field"
              :placeholder="
                asking.answer === 'applied'
                  ? 'How it was applied (may stay empty)'
                  : asking.answer === 'does-not-apply'
                    ? 'Why it does not apply here'
                    : 'Who accepts the risk, and why'
              "
              @keydown.esc="asking = null"
          /></label>
          <button class="button-main text-sm" :disabled="busy || (asking.answer !== 'applied' && reason.trim() === '')">
            Answer{{ person ? ` as ${person}` : '' }}
          </button>
        </form>
      </li>
    </ul>
    <ProblemNote :problem="problem" />
  </section>
</template>
