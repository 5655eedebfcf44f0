<script setup lang="ts">
import type { MaybeElementRef } from '@vueuse/core'

/** A label that takes files: chosen, or dropped on it or on the zone around it. */
const props = defineProps<{
  label: string
  accept?: string
  multiple?: boolean
  /** A telephone offers its camera. */
  capture?: 'environment'
  zone?: HTMLElement | null
}>()
const emit = defineEmits<{ files: [files: File[]] }>()
const root = useTemplateRef<HTMLElement>('root')
const input = useTemplateRef<HTMLInputElement>('input')
const { onChange, reset } = useFileDialog({
  input: computed(() => input.value ?? undefined) as MaybeElementRef<HTMLInputElement>,
  accept: computed(() => props.accept ?? ''),
  multiple: computed(() => props.multiple ?? false),
})
/** Where one is wanted, the first of several is it. */
function take(files: File[] | null): void {
  const taken = props.multiple ? (files ?? []) : (files ?? []).slice(0, 1)
  if (taken.length > 0) emit('files', taken)
}
// The same file may be chosen again after it was mended.
onChange(list => {
  const files = [...(list ?? [])]
  if (files.length > 0) reset()
  take(files)
})
const { isOverDropZone } = useDropZone(() => props.zone ?? root.value, {
  onDrop: (files, e) => {
    e.stopPropagation()
    take(files)
  },
})
</script>

<template>
  <label ref="root" class="cursor-pointer focus-within:outline-2 focus-within:outline-accent"
    ><slot :over="isOverDropZone" /><input
      ref="input"
      type="file"
      class="sr-only"
      :accept="accept"
      :multiple="multiple"
      :capture="capture"
      :aria-label="label"
  /></label>
</template>
