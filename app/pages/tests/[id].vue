<script setup lang="ts">
import { families, outlineOf } from '@hypomet/core'

const route = useRoute()
const id = Number(route.params.id)
const store = useTestStore()
const { error } = await useAsyncData(`test-${id}`, async () => (await store.load(id), true))
if (error.value || !store.page) throw createError({ statusCode: 404, statusMessage: 'There is no such test.' })

const undo = useUndoStore()
watch(() => undo.changes, async () => {
  const { slug } = store.page!.campaign
  // A test that was just undone is no longer there.
  await store.refresh().catch(() => void navigateTo(`/campaigns/${slug}`))
})
const stage = computed(() => route.path.split('/')[3] ?? 'plan')
/** Every kind of test can be planned, made ready and run; results come with its reduction. */
const isPlannedOnly = computed(() => !families[store.page!.test.family] && ['reduce', 'judge', 'change'].includes(stage.value))
const page = computed(() => store.page!)
// Only ever written here: an effect that also read it would chase the one of the page that is leaving.
const trail = useTrail()
watchEffect(() => {
  const { campaign, article, revision, test } = page.value
  trail.value = [{ name: campaign.title, to: `/campaigns/${campaign.slug}` }, { name: `${article.name} ${revision.label}` }, { name: test.title }]
})
useHead({ title: () => `${page.value.article.name} ${page.value.revision.label} · ${stage.value} · Hypomet` })
</script>

<template>
  <div class="flex flex-1 flex-col">
    <StageStrip :test-id="id" :stages="page.stages" :current="stage" />
    <main v-if="isPlannedOnly" class="mx-auto w-full max-w-[1500px] flex-1 p-3"><EmptyState :title="`${outlineOf(page.test.family)?.title} tests can be planned, made ready and run here`" text="Their reduction is not here yet. Plan, checklist, sheets and runs work, and what was recorded waits for it." action="To the plan" :to="`/tests/${page.test.id}/plan`" /></main>
    <NuxtPage v-else class="mx-auto w-full max-w-[1500px] flex-1 p-3" />
  </div>
</template>
