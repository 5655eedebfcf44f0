<script setup lang="ts">
/** How and where it broke, as seen: from what is expected, or in one's own words. */
const mode = defineModel<string>('mode', { required: true })
const place = defineModel<string>('place', { required: true })
const { foretoldPlaces, placeNames } = useTest()
const id = useId()
const modes = computed(() => [...new Set(foretoldPlaces.value.map(p => p.mode).filter(Boolean))])
</script>

<template>
  <div class="grid grid-cols-2 gap-2">
    <label class="block"
      ><span class="label">How</span
      ><input v-model="mode" class="field" :list="`${id}m`" placeholder="Insert sheared" /></label
    ><label class="block"
      ><span class="label">Where</span
      ><input v-model="place" class="field" :list="`${id}p`" placeholder="Root clamp, lower jaw"
    /></label>
    <datalist :id="`${id}m`"><option v-for="m in modes" :key="m" :value="m" /></datalist>
    <datalist :id="`${id}p`"><option v-for="p in placeNames" :key="p" :value="p" /></datalist>
  </div>
</template>
