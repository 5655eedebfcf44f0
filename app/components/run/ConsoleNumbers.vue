<script setup lang="ts">
import type { ConsoleChannel } from '~/composables/run/useConsole'

/** Every channel as a number: how much of its range, how far from its twin, and what is wrong with it. */
defineProps<{ channels: ConsoleChannel[]; approaches: { role: string; label: string; words: string }[] }>()
</script>

<template>
  <div class="min-h-0 flex-1 overflow-y-auto" tabindex="0" aria-label="Channels as numbers">
    <table class="data">
      <thead>
        <tr>
          <th>Channel</th>
          <th class="number">Reads</th>
          <th class="number">Of its range</th>
          <th class="number">Off redundant channel</th>
          <th>State</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in channels" :key="c.role" :data-channel="c.role">
          <td class="font-medium" :title="c.derived ?? undefined">{{ c.label }}</td>
          <td class="number text-base">{{ c.text }}</td>
          <td :class="['number', c.used !== null && c.used > 0.9 ? 'font-semibold text-open' : '']">
            {{ c.used === null ? '–' : `${Math.round(100 * c.used)} %` }}
          </td>
          <td class="number">{{ c.twin ? c.twin.apart : '' }}</td>
          <td :class="c.flag ? 'font-semibold text-open' : 'text-quiet'">{{ c.flag || (c.derived ? 'derived' : 'sound') }}</td>
        </tr>
      </tbody>
    </table>
    <p v-for="a in approaches" :key="a.role" class="mt-2 text-sm">{{ a.label }} {{ a.words }}</p>
  </div>
</template>
