<script setup lang="ts">
import { Pencil } from '@lucide/vue'
import type { PropertyRow } from '~/composables/article/useFactors'

/** What each revision is, property by property; what it changed against the one it follows stands out. */
defineProps<{ revisions: { id: number; label: string; parentId: number | null }[]; properties: PropertyRow[] }>()
const emit = defineEmits<{ edit: [id: number] }>()
const onlyChanged = ref(false)
</script>

<template>
  <div>
    <label v-if="revisions.length > 1" class="mb-1 flex items-center gap-1 text-xs"
      ><input v-model="onlyChanged" type="checkbox" />Only what ever changed</label
    >
    <div class="overflow-x-auto">
      <table class="data">
        <thead>
          <tr>
            <th>Property</th>
            <th v-for="r in revisions" :id="`revision-${r.id}`" :key="r.id" class="number">
              <button
                type="button"
                class="inline-flex items-center gap-1 font-semibold"
                :aria-label="`Edit revision ${r.label}`"
                @click="emit('edit', r.id)"
              >
                {{ r.label }}<Pencil class="size-3" aria-hidden="true" />
              </button>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in properties.filter(x => !onlyChanged || x.cells.some(c => c.changed))" :key="p.key">
            <th scope="row" class="font-normal!">
              <span class="text-sm text-ink">{{ p.title }}</span>{{ ' ' }}
              <span v-if="p.group !== 'Calculation' && p.group !== p.title" class="text-2xs">{{ p.group }}</span>
            </th>
            <td
              v-for="(c, i) in p.cells"
              :key="revisions[i]!.id"
              :class="['number whitespace-nowrap', c.changed ? 'font-bold' : 'text-quiet']"
            >
              <template v-if="c.changed"
                ><span class="sr-only">changed: </span
                ><span aria-hidden="true" class="mr-1 text-accent">▸</span></template
              >{{ c.text }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>
