<script setup lang="ts">
import type { LiveOwnResult } from '@hypomet/core'
import type { ConsoleChannel } from '~/composables/run/useConsole'

/**
 * Results that the article has of its own, and every channel as a number: how much of its range, how far from its twin,
 * and what is wrong with it.
 */
defineProps<{
  channels: ConsoleChannel[]
  own: readonly LiveOwnResult[]
  approaches: { role: string; label: string; words: string }[]
}>()
const { units } = useTest()
const limitWords = ({ limit, kind }: LiveOwnResult): string =>
  limit === null
    ? 'no limit'
    : `${limit.comparator === 'atMost' ? '≤' : '≥'} ${units.show(limit.value, kind, { digits: 4 })}`
</script>

<template>
  <div class="min-h-0 flex-1 overflow-y-auto" tabindex="0" aria-label="Channels as numbers">
    <table v-if="own.length > 0" class="data mb-3" data-own-results>
      <thead>
        <tr>
          <th>Result of your own</th>
          <th>Read</th>
          <th class="number">So far</th>
          <th class="number">Limit</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in own" :key="r.name" :data-own="r.name">
          <td class="font-medium">{{ r.name }}</td>
          <td class="text-quiet">{{ r.place }}</td>
          <td :class="['number text-base', r.limit?.isBroken ? 'font-semibold text-fail' : '']">
            <span v-if="r.note" class="text-xs text-quiet">{{ r.note }}</span><template v-else>{{
              r.value === null ? '–' : units.show(r.value, r.kind, { digits: 4 })
            }}</template>
          </td>
          <td class="number">
            {{ limitWords(r)
            }}<span v-if="r.limit?.isBroken" class="block text-xs font-semibold text-fail">passed</span>
          </td>
        </tr>
      </tbody>
    </table>
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
          <td :class="c.flag ? 'font-semibold text-open' : 'text-quiet'">
            {{ c.flag || (c.derived ? 'derived' : 'sound') }}
          </td>
        </tr>
      </tbody>
    </table>
    <p v-for="a in approaches" :key="a.role" class="mt-2 text-sm">{{ a.label }} {{ a.words }}</p>
  </div>
</template>
