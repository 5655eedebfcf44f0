<script setup lang="ts">
import { readNumber, type NumberStyle } from '@hypomet/core'

/** Which of two numbers is meant; the answer holds for the campaign. Nothing where it is not asked any more. */
const props = defineProps<{ text: string }>()
const emit = defineEmits<{ answered: [] }>()
const numbers = useNumberStyle()
const { problem, run, busy } = useAction()
const readings = computed(() =>
  (['point', 'comma'] as const).flatMap(style => {
    const read = readNumber(props.text, style)
    return read ? [{ style, words: `${read.value}${read.rest.trimEnd().replace(/^\s*(?=\S)/, ' ')}` }] : []
  }),
)
const written: Record<NumberStyle, string> = { point: '1,234.5', comma: '1.234,5' }
const answer = (style: NumberStyle | 'plain') =>
  run(async () => {
    await numbers.say(style)
    await nextTick()
    emit('answered')
  })
</script>

<template>
  <div v-if="numbers.isAsked.value" class="mt-1 rounded border border-open bg-panel p-2 text-xs" role="group">
    <p class="mb-1">Which is meant? The answer holds for all of the campaign.</p>
    <div class="flex flex-wrap gap-1.5">
      <button
        v-for="r in readings"
        :key="r.style"
        type="button"
        class="button px-1.5 py-0.5 text-xs"
        :disabled="busy"
        @click="answer(r.style)"
      >
        {{ r.words }}<span class="font-normal text-quiet">, written {{ written[r.style] }}</span>
      </button>
      <button type="button" class="button px-1.5 py-0.5 text-xs" :disabled="busy" @click="answer('plain')">
        neither: ask each time
      </button>
    </div>
    <ProblemNote :problem="problem" />
  </div>
</template>
