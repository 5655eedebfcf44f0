<script setup lang="ts">
const store = useTestStore()
const next = store.page?.stages.find(s => s.state !== 'done')?.stage ?? 'judge'
await navigateTo(`/tests/${useRoute().params.id as string}/${next}`, { replace: true })
</script>

<template><main /></template>
