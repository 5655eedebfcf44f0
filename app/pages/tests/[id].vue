<script setup lang="ts">
const route = useRoute()
const id = Number(route.params.id)
const store = useTestStore()
const { error } = await useAsyncData(`test-${id}`, async () => (await store.load(id), true))
/** A plan of thousands of channels comes by itself, after its page: nobody waits for both. */
const comesLater = useState(`test-${id}-later`, () => false)
const MANY = 1000
if (import.meta.server && (store.page?.view?.channels.length ?? 0) > MANY) {
  comesLater.value = true
  store.leave()
}
if (error.value || (!store.page && !comesLater.value))
  throw createError({ statusCode: 404, statusMessage: 'There is no such test.' })
onMounted(async () => {
  if (!comesLater.value) return
  await store.load(id)
  comesLater.value = false
})

const undo = useUndoStore()
watch(
  () => undo.changes,
  async () => {
    if (!store.page) return
    const { slug } = store.page.campaign
    // A test that was just undone is no longer there.
    await store.refresh().catch(() => void navigateTo(`/campaigns/${slug}`))
  },
)
const stage = computed(() => route.path.split('/')[3] ?? 'plan')
const page = computed(() => store.page)
useNumbersOf(() => store.page?.campaign)
// Only ever written here: an effect that also read it would chase the one of the page that is leaving.
const trail = useTrail()
watchEffect(() => {
  if (!page.value) return
  const { campaign, article, revision, test } = page.value
  trail.value = [
    { name: campaign.title, to: `/campaigns/${campaign.slug}` },
    { name: `${article.name} ${revision.label}` },
    { name: test.title },
  ]
})
const titled = computed(() => (page.value ? `${page.value.article.name} ${page.value.revision.label} · ` : ''))
useHead({ title: () => `${titled.value}${stage.value} · Hypomet` })
</script>

<template>
  <p v-if="!page" class="py-16 text-center text-sm text-quiet" role="status">
    Thousands of channels are on their way …
  </p>
  <div v-else class="flex flex-1 flex-col">
    <StageStrip :test-id="id" :stages="page.stages" :current="stage" />
    <p v-if="page.withoutOriginal.length > 0" class="border-b border-line px-4 py-1.5 text-sm text-open" role="status">
      The original of {{ page.withoutOriginal.join(', ') }} is not in the folder of originals: what was read of it
      stands, and cannot be held against it. <NuxtLink to="/proofs">Records and proofs</NuxtLink>
    </p>
    <NuxtPage class="mx-auto w-full max-w-[1500px] flex-1 p-3" />
  </div>
</template>
