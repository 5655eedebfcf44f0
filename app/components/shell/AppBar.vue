<script setup lang="ts">
import { Moon, Redo2, Search, Sun, Undo2 } from '@lucide/vue'

defineProps<{ trail: { name: string; to?: string }[] }>()
const emit = defineEmits<{ find: [] }>()
const person = usePerson()
const { isDark, toggle } = useTheme()
const undo = useUndoStore()
const session = useSessionStore()
const names = ref<string[]>([])
const readNames = async () => {
  names.value = await session.people()
}
</script>

<template>
  <header class="no-print flex h-11 items-center gap-4 border-b border-line bg-panel px-4">
    <NuxtLink to="/" class="flex items-center gap-2 text-ink no-underline">
      <svg viewBox="0 0 32 32" class="size-6" aria-hidden="true">
        <rect width="32" height="32" rx="7" fill="var(--accent)" />
        <path d="M6 22h20M24 10v12" stroke="var(--on-accent)" stroke-width="3" stroke-linecap="round" />
        <path d="M9 15h10M9 12v6M19 12v6" stroke="var(--on-accent)" stroke-width="2" stroke-linecap="round" />
      </svg>
      <span class="font-bold tracking-tight">Hypomet</span>
    </NuxtLink>
    <nav aria-label="You are here" class="min-w-0 flex-1">
      <ClientOnly>
        <ol class="flex min-w-0 items-center gap-1.5 text-sm">
          <li v-for="(t, i) in trail" :key="i" class="flex min-w-0 items-center gap-1.5">
            <span class="text-quiet" aria-hidden="true">›</span>
            <NuxtLink v-if="t.to" :to="t.to" class="truncate">{{ t.name }}</NuxtLink>
            <span v-else class="truncate font-medium" aria-current="page">{{ t.name }}</span>
          </li>
        </ol>
      </ClientOnly>
    </nav>
    <NuxtLink to="/import" class="text-sm">Import</NuxtLink>
    <NuxtLink to="/compare" class="hidden text-sm lg:inline">Compare</NuxtLink>
    <NuxtLink to="/lessons" class="hidden text-sm lg:inline">Lessons</NuxtLink>
    <NuxtLink to="/sensors" class="hidden text-sm lg:inline">Sensors</NuxtLink>
    <NuxtLink to="/people" class="hidden text-sm lg:inline">People</NuxtLink>
    <NuxtLink to="/worksheets" class="hidden text-sm lg:inline">Worksheets</NuxtLink>
    <ClientOnly>
      <span class="flex gap-0.5">
        <button
          type="button"
          class="button px-1.5"
          :disabled="undo.done.length === 0"
          :data-hint="undo.done.length > 0 ? `Undo: ${undo.done.at(-1)!.what} (Ctrl Z)` : 'Nothing to undo'"
          aria-label="Undo the last change"
          @click="undo.undo()"
        >
          <Undo2 class="size-4" aria-hidden="true" />
        </button>
        <button
          type="button"
          class="button px-1.5"
          :disabled="undo.undone.length === 0"
          :data-hint="
            undo.undone.length > 0 ? `Do again: ${undo.undone.at(-1)!.what} (Ctrl Shift Z)` : 'Nothing to do again'
          "
          aria-label="Do it again"
          @click="undo.redo()"
        >
          <Redo2 class="size-4" aria-hidden="true" />
        </button>
      </span>
    </ClientOnly>
    <button type="button" class="button whitespace-nowrap text-sm text-quiet" @click="emit('find')">
      <Search class="size-3.5" aria-hidden="true" />Go to <span class="key">/</span>
    </button>
    <label class="flex items-center gap-1.5 text-sm"
      ><span class="sr-only whitespace-nowrap text-quiet lg:not-sr-only">You are</span
      ><input
        v-model.lazy.trim="person"
        class="field w-32"
        placeholder="name, for the record"
        autocomplete="name"
        list="people-known"
        @focus="readNames" /><datalist id="people-known"><option v-for="n in names" :key="n" :value="n" /></datalist
    ></label>
    <button type="button" class="button px-1.5" :aria-label="isDark ? 'Light theme' : 'Dark theme'" @click="toggle">
      <Sun v-if="isDark" class="size-4" aria-hidden="true" /><Moon v-else class="size-4" aria-hidden="true" />
    </button>
  </header>
</template>
