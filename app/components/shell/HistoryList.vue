<script setup lang="ts">
import { writeCell, type Register, type RegisterContext, type Row } from '@hypomet/core'

/** Who changed what of a row, newest first. */
const props = defineProps<{ register: Register; id: number; version: number; context: RegisterContext }>()
const registers = useRegistersStore()
interface Entry {
  id: number
  at: string
  who: string
  what: string
  changes: { key: string; title: string; before: unknown; after: unknown }[]
}
const entries = ref<Entry[]>([])
const read = async () => {
  entries.value = await registers.history(props.register.id, props.id)
}
watch(() => [props.id, props.version], read)
onMounted(read)
function text(key: string, value: unknown): string {
  const f = props.register.fields.find(x => x.key === key)!
  const written = writeCell(f, value, { [key]: value } as Row, props.context)
  return written.length > 80 ? `${written.slice(0, 79)}…` : written || '(empty)'
}
const words: Record<string, string> = {
  create: 'made it',
  change: 'changed it',
  remove: 'removed it',
  undo: 'undid a change',
  replace: 'replaced it',
}
</script>

<template>
  <section v-if="entries.length > 0">
    <h2 class="mb-1">History</h2>
    <ol class="max-h-48 space-y-1 overflow-y-auto text-xs" tabindex="0" aria-label="History">
      <li v-for="e in entries" :key="e.id">
        <span class="font-medium">{{ e.who }}</span> {{ words[e.what] ?? e.what }},
        <span class="text-quiet">{{ moment(e.at) }}</span>
        <span v-for="c in e.changes" :key="c.key" class="block pl-3"
          >{{ c.title }}: <span class="text-quiet line-through">{{ text(c.key, c.before) }}</span> →
          {{ text(c.key, c.after) }}</span
        >
      </li>
    </ol>
  </section>
</template>
