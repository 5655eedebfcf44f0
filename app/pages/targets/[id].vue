<script setup lang="ts">
/** Image targets of a record as a field; drawn in the browser alone, from whole columns. */
const id = Number(useRoute().params['id'])
const api = useApi()
const { data: page } = await useAsyncData(`targets-${id}`, () => api.get(`/api/datasets/${id}`))
if (!page.value) throw createError({ statusCode: 404, statusMessage: 'There is no such record.', fatal: true })
useTrail().value = [
  { name: page.value.campaign, to: `/campaigns/${page.value.slug}` },
  { name: `${page.value.articleName} ${page.value.revision}`, to: `/tests/${page.value.testId}/reduce` },
  { name: page.value.records[0]!.name, to: `/records/${id}` },
  { name: 'Field of targets' },
]
useHead({ title: 'Field of targets · Hypomet' })
</script>

<template>
  <main class="mx-auto w-full max-w-[1500px] p-3">
    <EmptyState
      v-if="!page!.hasTargets"
      title="No image targets in this record"
      text="Targets are columns of lengths whose names end in x, y and z, or rows of target, x, y, z."
      action="To the record"
      :to="`/records/${id}`"
    />
    <ClientOnly v-else
      ><Suspense
        ><TargetBoard :id="id" :system="page!.system" /><template #fallback
          ><p class="py-10 text-center text-sm text-quiet">Fetching the targets …</p></template
        ></Suspense
      ></ClientOnly
    >
  </main>
</template>
