<script setup lang="ts">
/** Versions of a plan as they were released, and why each was made. */
defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: [] }>()
const { page } = useTest()
</script>

<template>
  <BaseDialog :open="open" title="Released versions" @close="emit('close')">
    <ol class="divide-y divide-line">
      <li v-for="v in page.versions" :key="v.id" class="flex items-baseline justify-between gap-3 py-1.5">
        <span
          ><span class="font-medium">Version {{ v.number }}</span
          >{{ ' ' }} <span class="text-sm text-quiet">{{ v.reason || 'first' }}</span><span
            v-if="v.findings.length > 0"
            class="block text-xs text-open"
            >{{ v.findings.length }} known {{ v.findings.length === 1 ? 'remark' : 'remarks' }}:
            {{ v.findings[0]!.message }}</span
          ></span
        >
        <span class="text-xs text-quiet"
          >{{ v.by }}, {{ moment(v.at) }} ·
          <a
            :href="`/api/tests/${page.test.id}/plan/versions?number=${v.number}`"
            :download="`plan-${page.test.id}-v${v.number}.json`"
            >JSON</a
          ></span
        >
      </li>
    </ol>
  </BaseDialog>
</template>
