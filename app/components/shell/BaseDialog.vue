<script setup lang="ts">
import { Dialog, DialogDescription, DialogPanel, DialogTitle } from '@headlessui/vue'

defineProps<{ open: boolean; title: string; description?: string; wide?: boolean }>()
const emit = defineEmits<{ close: [] }>()
</script>

<template>
  <Dialog :open="open" class="relative z-40" @close="emit('close')">
    <div class="fixed inset-0 bg-black/45" aria-hidden="true" />
    <div class="fixed inset-0 overflow-y-auto p-6">
      <DialogPanel
        :class="['mx-auto mt-8 rounded-xl border border-line bg-panel p-5 shadow-xl', wide ? 'max-w-3xl' : 'max-w-xl']"
      >
        <DialogTitle class="text-lg font-semibold normal-case tracking-normal text-ink">{{ title }}</DialogTitle>
        <DialogDescription v-if="description" class="mt-1 text-sm text-quiet">{{ description }}</DialogDescription>
        <div class="mt-4"><slot /></div>
        <AbortInDialog />
      </DialogPanel>
    </div>
  </Dialog>
</template>
