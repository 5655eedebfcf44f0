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
const take = (files: File[] | null) => {
  if (files && files.length > 0) emit('files', files)
}
// The same file may be chosen again after it was mended.
onChange(list => {
  const files = [...(list ?? [])]
  if (files.length > 0) reset()
  take(files)
})
const { isOverDropZone } = useDropZone(() => props.zone ?? root.value, {
  multiple: props.multiple ?? false,
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
