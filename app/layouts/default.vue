<script setup lang="ts">
const { attribute } = useTheme()
const forced = useForcedTheme()
const trail = useTrail()
const finding = ref(false)
/** The palette is loaded when it is first asked for. */
const wasAsked = ref(false)
watch(finding, isOpen => {
  if (isOpen) wasAsked.value = true
})

useHead({ htmlAttrs: { 'data-theme': () => forced.value ?? attribute.value } })
// A file may be dropped anywhere: it goes to the test at hand, or to the choice of one.
const dropped = useDroppedFile()
const route = useRoute()
useEventListener('dragover', (e: DragEvent) => e.dataTransfer?.types.includes('Files') && e.preventDefault())
useEventListener('drop', (e: DragEvent) => {
  const file = e.dataTransfer?.files[0]
  if (e.defaultPrevented || !file) return
  e.preventDefault()
  dropped.bring(file)
  const test = [route.path, ...trail.value.map(t => t.to ?? '')]
    .map(path => /^\/tests\/(\d+)/.exec(path)?.[1])
    .find(Boolean)
  void navigateTo(test ? `/tests/${test}/run` : '/import')
})
const undo = useUndoStore()
onMounted(() => undo.restore())
onKeyStroke(['z', 'Z', 'y'], e => {
  const inField = e.target instanceof Element && e.target.closest('input, textarea, select, [contenteditable]') !== null
  if (!(e.ctrlKey || e.metaKey) || e.defaultPrevented || inField) return
  e.preventDefault()
  void (e.shiftKey || e.key === 'y' ? undo.redo() : undo.undo())
})
onKeyStroke('/', e => {
  if (isTyping(e)) return
  e.preventDefault()
  finding.value = true
})
</script>

<template>
  <div class="flex min-h-screen flex-col">
    <AppBar :trail="trail" @find="finding = true" />
    <ClientOnly><RunBand /><WaitingFile /></ClientOnly>
    <slot />
    <UndoNote />
    <ClientOnly><AskName /></ClientOnly>
    <HintBubble />
    <LazyCommandPalette v-if="wasAsked" v-model:open="finding" />
  </div>
</template>
