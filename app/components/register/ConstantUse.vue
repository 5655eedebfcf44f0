<script setup lang="ts">
import type { RegisterRow } from '~/composables/register/useRegister'

/** What is sized from a constant; of one that was replaced, what still is, and sizing it anew. */
const props = defineProps<{ row: RegisterRow }>()
const emit = defineEmits<{ replace: [] }>()
const registers = useRegistersStore()
const undo = useUndoStore()
const { busy, problem, run } = useAction()
const users = computed(() => props.row['usedBy'] as { id: number; name: string }[])
const replaced = computed(() => props.row['replacedById'] !== null)
const anew = (ids: number[]) =>
  run(async () => {
    const { step } = await registers.resize(props.row.id, ids)
    undo.did(step, `${ids.length === 1 ? 'a revision' : `${ids.length} revisions`} sized anew`)
  })
</script>

<template>
  <div class="text-sm">
    <p v-if="users.length === 0" class="text-quiet">
      {{
        replaced
          ? 'Nothing is sized from it any more.'
          : 'Nothing is sized from it yet: a revision takes a property from a constant in its own form.'
      }}
    </p>
    <template v-else>
      <p>{{ replaced ? 'It was replaced; still sized from it:' : 'Sized from it:' }}</p>
      <ul class="ml-4 list-disc">
        <li v-for="u in users" :key="u.id">
          {{ u.name }}
          <button
            v-if="replaced"
            type="button"
            class="button px-1.5 py-0 text-xs"
            :disabled="busy"
            :aria-label="`Size ${u.name} anew`"
            @click="anew([u.id])"
          >
            Size anew
          </button>
        </li>
      </ul>
    </template>
    <button v-if="!replaced" type="button" class="button mt-1 text-xs" @click="emit('replace')">
      Replace it by another value
    </button>
    <ProblemNote :problem="problem" />
  </div>
</template>
