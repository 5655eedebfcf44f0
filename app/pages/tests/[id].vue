<script setup lang="ts">
const route = useRoute()
const id = Number(route.params.id)
const store = useTestStore()
const { error } = await useAsyncData(`test-${id}`, async () => (await store.load(id), true))
if (error.value || !store.page) throw createError({ statusCode: 404, statusMessage: 'There is no such test.' })

const undo = useUndoStore()
watch(
  () => undo.changes,
  async () => {
    const { slug } = store.page!.campaign
    // A test that was just undone is no longer there.
    await store.refresh().catch(() => void navigateTo(`/campaigns/${slug}`))
  },
)
const stage = computed(() => route.path.split('/')[3] ?? 'plan')
const page = computed(() => store.page!)
useNumbersOf(() => store.page?.campaign)
// Only ever written here: an effect that also read it would chase the one of the page that is leaving.
const trail = useTrail()
watchEffect(() => {
  const { campaign, article, revision, test } = page.value
  trail.value = [
    { name: campaign.title, to: `/campaigns/${campaign.slug}` },
    { name: `${article.name} ${revision.label}` },
    { name: test.title },
  ]
})
useHead({ title: () => `${page.value.article.name} ${page.value.revision.label} · ${stage.value} · Hypomet` })
</script>

<template>
  <div class="flex flex-1 flex-col">
    <StageStrip :test-id="id" :stages="page.stages" :current="stage" />
    <NuxtPage class="mx-auto w-full max-w-[1500px] flex-1 p-3" />
  </div>
</template>
