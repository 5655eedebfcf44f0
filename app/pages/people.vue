<script setup lang="ts">
import { registerWords } from '~/composables/register/registerWords'

useTrail().value = [{ name: 'People' }]
useHead({ title: 'People · Hypomet' })
</script>

<template>
  <main class="mx-auto w-full max-w-5xl flex-1 p-4">
    <RegisterBook id="person" :about="registerWords['person']!" />
    <p class="mt-3 text-sm text-quiet">
      What they did and signed is in the audit trail:
      <NuxtLink to="/proofs">Records and proofs</NuxtLink>.
    </p>
  </main>
</template>
