<script setup lang="ts">
import { Check, CircleAlert } from '@lucide/vue'
import type { SettingCheck } from '@hypomet/core'

/** Whether a window was proposed or is a person's, and what it was looked at for. */
defineProps<{ isProposed: boolean; checks: readonly SettingCheck[] }>()
const emit = defineEmits<{ accept: []; take: [value: [number, number]] }>()
</script>

<template>
  <div v-if="isProposed || checks.length > 0" class="mt-0.5 flex flex-wrap items-center gap-x-2 gap-y-0.5 text-xs">
    <template v-if="isProposed">
      <span class="rounded border border-dashed border-predicted px-1 text-predicted" data-mark="proposed"
        >proposed</span
      >
      <button type="button" class="button px-1.5 py-0 text-xs" @click="emit('accept')">Accept</button>
    </template>
    <span
      v-for="c in checks"
      :key="c.path"
      :class="['inline-flex items-center gap-1', c.ok ? 'text-quiet' : 'font-semibold text-open']"
      :data-check="c.ok ? 'ok' : 'failed'"
      ><Check v-if="c.ok" class="size-3" aria-hidden="true" /><CircleAlert v-else class="size-3" aria-hidden="true" />{{
        /\d$/.test(c.path) ? `${Number(c.path.split('.').at(-1)) + 1}: ` : ''
      }}{{ c.words }}</span
    >
    <template v-for="c in checks" :key="c.path"
      ><button
        v-if="c.offer"
        type="button"
        class="button px-1.5 py-0 text-xs"
        data-offer
        @click="emit('take', c.offer.value)"
      >
        {{ c.offer.words }}
      </button></template
    >
  </div>
</template>
