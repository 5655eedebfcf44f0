<script setup lang="ts">
import { placesCompared, type PlaceSeen } from '@hypomet/core'
import { modeWords, placeWords } from '~/composables/judge/judgeWords'

/** Where and how it was expected to fail, beside what was seen. */
const props = defineProps<{ seen: PlaceSeen }>()
const { foretoldPlaces } = useTest()
const compared = computed(() => placesCompared(foretoldPlaces.value, props.seen))
</script>

<template>
  <table v-if="compared.length > 0" class="data" data-places>
    <thead>
      <tr>
        <th>Foretold by</th>
        <th>Where</th>
        <th>How</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(p, i) in compared" :key="i">
        <td>{{ p.by }}</td>
        <td>
          {{ p.place || '–' }}
          <span :class="['text-xs font-semibold', p.isPlace ? 'text-pass' : 'text-open']">{{
            placeWords(p.isPlace)
          }}</span>
        </td>
        <td>
          {{ p.mode || '–' }}
          <span :class="['text-xs font-semibold', p.isMode ? 'text-pass' : 'text-open']">{{
            modeWords(p.isMode)
          }}</span>
        </td>
      </tr>
    </tbody>
  </table>
</template>
