<script setup lang="ts">
import type { UnitPreference } from '@hypomet/core'
import { preferredUnit, type Kind } from '@hypomet/core'

/** Whether a bare number is a half width in its own unit or in per cent. */
const props = defineProps<{ text: string; kind: Kind; prefer: UnitPreference }>()
const emit = defineEmits<{ chosen: [text: string] }>()
const bare = computed(() => props.text.replace(/^[\s±+/-]*/, '').trim())
const choices = computed(() =>
  [preferredUnit(props.kind, { prefer: props.prefer }), '%'].map(u => `± ${bare.value} ${u}`),
)
</script>

<template>
  <div class="mt-1 flex flex-wrap items-center gap-1.5 text-xs" role="group" aria-label="Which band is meant">
    <button v-for="c in choices" :key="c" type="button" class="button px-1.5 py-0.5 text-xs" @click="emit('chosen', c)">
      {{ c }}
    </button>
  </div>
</template>
