<script setup lang="ts">
import { columnFormatter, type Kind, type SetColumn, type UnitPreference } from '@hypomet/core'
import { setText } from '~/composables/plan/setText'

/** Columns of what is set or follows, each in one unit throughout. */
const props = defineProps<{ title: string; columns: SetColumn[]; prefer: UnitPreference; numbered?: boolean }>()
const plainKinds = ['count', 'words', 'ratio']
const texts = computed(() =>
  props.columns.map(c => {
    if (plainKinds.includes(c.kind)) return c.values.map(v => setText(v, c.kind, props.prefer))
    const write = columnFormatter(c.values as (number | null)[], c.kind as Kind, {
      prefer: props.prefer,
      digits: 4,
      ...(c.unit ? { unit: c.unit } : {}),
    })
    return c.values.map(v => write(v as number | null))
  }),
)
const rows = computed(() =>
  Array.from({ length: props.columns[0]?.values.length ?? 0 }, (_, i) => texts.value.map(t => t[i]!)),
)
</script>

<template>
  <section class="min-w-0">
    <h3 class="label">{{ title }}</h3>
    <div class="max-h-72 overflow-auto" tabindex="0" role="region" :aria-label="title">
      <table class="data">
        <thead>
          <tr>
            <th v-if="numbered" class="number">Rung</th>
            <th v-for="c in columns" :key="c.key" :class="c.kind === 'words' ? '' : 'number'">{{ c.label }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, i) in rows" :key="i">
            <td v-if="numbered" class="number text-quiet">{{ i + 1 }}</td>
            <td
              v-for="(cell, j) in row"
              :key="j"
              :class="columns[j]!.kind === 'words' ? '' : 'number whitespace-nowrap'"
            >
              {{ cell }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>
