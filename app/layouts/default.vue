<script setup lang="ts">
const { attribute } = useTheme()
const forced = useForcedTheme()
const trail = useTrail()
const finding = ref(false)

useHead({ htmlAttrs: { 'data-theme': () => forced.value ?? attribute.value } })
onKeyStroke('/', e => {
  if (isTyping(e)) return
  e.preventDefault()
  finding.value = true
})
</script>

<template>
  <div class="flex min-h-screen flex-col">
    <AppBar :trail="trail" @find="finding = true" />
    <slot />
    <CommandPalette v-model:open="finding" />
  </div>
</template>
