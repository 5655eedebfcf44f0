<script setup lang="ts">
import { familyOutlines, resultsOf, type Kind, type QuantityInput } from '@hypomet/core'

/**
 * A test for data that exists, with the article and the campaign that it is of, in one short form: names, the kind of
 * test, and limits where there are any. Nothing else is needed before the reduction.
 */
const props = defineProps<{ fileName: string }>()
const api = useApi()
const campaigns = useCampaignStore()
const registers = useRegistersStore()
const { busy, problem, run } = useAction()
const { data: index } = await useAsyncData('import-tests', () => api.get('/api/index'))

const form = reactive({
  /** The newest is likeliest. */
  campaign: (index.value?.at(-1)?.id ?? '') as number | '',
  campaignTitle: '',
  system: 'metric' as 'metric' | 'imperial',
  article: '' as number | '',
  name: '',
  family: '',
  title: '',
})
interface Limit {
  quantity: string
  comparator: 'atLeast' | 'atMost'
  entered: QuantityInput | null
}
const limits = ref<Limit[]>([])
watch(
  () => props.fileName,
  (now, before) => {
    const bare = (file: string | undefined) => file?.replace(/(\.[A-Za-z0-9]{1,8}){1,2}$/, '') ?? ''
    if (form.title === bare(before)) form.title = bare(now)
  },
  { immediate: true },
)
const campaign = computed(() => (index.value ?? []).find(c => c.id === form.campaign) ?? null)
const article = computed(() => campaign.value?.articles.find(a => a.id === form.article) ?? null)
watch(campaign, () => (form.article = ''))
const family = computed(() => article.value?.family ?? form.family)
watch(family, () => (limits.value = []))
const declared = computed(() => resultsOf(family.value, article.value?.own))
const results = computed(() => Object.entries(declared.value))
const kindOf = (key: string): Kind => declared.value[key]!.kind
const units = useUnits(() => campaign.value?.system ?? form.system)
function addLimit(): void {
  const [quantity, result] = results.value.find(([, r]) => r.limited) ?? results.value[0]!
  limits.value.push({ quantity, comparator: result.limited ?? 'atLeast', entered: null })
}
function turn(limit: Limit): void {
  limit.comparator = declared.value[limit.quantity]!.limited ?? limit.comparator
  limit.entered = null
}
const lacks = computed(() => {
  if (!campaign.value && form.campaignTitle.trim() === '') return 'Name the campaign.'
  if (!article.value && form.name.trim() === '') return 'Name the article.'
  if (family.value === '') return 'Say which kind of test it was.'
  if (form.title.trim() === '') return 'Name the test.'
  return limits.value.some(l => l.entered === null) ? 'Give the value of each limit, or take it out.' : ''
})

/** What has been made already when a later part is refused is not made twice. */
const made = { campaign: null as number | null, article: null as number | null, revision: null as number | null }
const create = () =>
  run(async () => {
    made.campaign ??=
      campaign.value?.id ?? (await campaigns.create({ title: form.campaignTitle.trim(), system: form.system })).id
    if (made.revision === null && article.value) {
      made.article = article.value.id
      made.revision = article.value.revisions.at(-1)!.id
    }
    if (made.revision === null) {
      const { id, revision } = await campaigns.createArticle({
        campaignId: made.campaign,
        name: form.name.trim(),
        family: form.family,
        revision: { label: 'A' },
      })
      made.article = id
      made.revision = revision.id
    }
    if (limits.value.length > 0)
      await registers.write('limit', {
        campaignId: made.campaign,
        creates: limits.value.map(l => ({
          articleId: made.article!,
          quantity: l.quantity,
          name: declared.value[l.quantity]!.label,
          comparator: l.comparator,
          entered: l.entered,
        })),
      })
    limits.value = []
    const { id } = await campaigns.createTest(made.revision, { title: form.title.trim() })
    await navigateTo(`/tests/${id}/run`)
  })
</script>

<template>
  <form class="space-y-3" aria-label="A new test for this data" @submit.prevent="create">
    <div class="grid grid-cols-2 gap-3">
      <label
        ><span class="label">Campaign</span
        ><select v-model="form.campaign" class="field">
          <option v-for="c in index ?? []" :key="c.id" :value="c.id">{{ c.title }}</option>
          <option value="">a new one</option>
        </select></label
      >
      <template v-if="!campaign">
        <label
          ><span class="label">Its title</span
          ><input v-model="form.campaignTitle" class="field" placeholder="What the tests are for"
        /></label>
      </template>
      <label v-else
        ><span class="label">Article</span
        ><select v-model="form.article" class="field">
          <option value="">a new one</option>
          <option v-for="a in campaign.articles" :key="a.id" :value="a.id">{{ a.name }}</option>
        </select></label
      >
      <label v-if="!article"
        ><span class="label">{{ campaign ? 'Its name' : 'Article' }}</span
        ><input v-model="form.name" class="field" placeholder="What was tested"
      /></label>
      <label v-if="!article"
        ><span class="label">Kind of test</span
        ><select v-model="form.family" class="field">
          <option value="" disabled>choose</option>
          <option v-for="f in familyOutlines" :key="f.id" :value="f.id">{{ f.title }}</option>
        </select></label
      >
      <label><span class="label">Test</span><input v-model="form.title" class="field" /></label>
      <label v-if="!campaign"
        ><span class="label">Units shown</span
        ><select v-model="form.system" class="field">
          <option value="metric">kN, mm, MPa</option>
          <option value="imperial">lbf, in, psi</option>
        </select></label
      >
    </div>
    <fieldset v-if="results.length > 0" class="space-y-1.5">
      <legend class="label">Limits {{ article ? 'beside those that the article has' : '' }} (optional)</legend>
      <div v-for="(l, i) in limits" :key="i" class="flex items-end gap-2">
        <select v-model="l.quantity" class="field" :aria-label="`Result of limit ${i + 1}`" @change="turn(l)">
          <option v-for="[key, r] in results" :key="key" :value="key">{{ r.label }}</option>
        </select>
        <select v-model="l.comparator" class="field w-28" :aria-label="`Sense of limit ${i + 1}`">
          <option value="atLeast">at least</option>
          <option value="atMost">at most</option>
        </select>
        <QuantityField
          :key="l.quantity"
          v-model="l.entered"
          class="w-36"
          hide-label
          :label="`Value of limit ${i + 1}`"
          :kind="kindOf(l.quantity)"
          :prefer="units.prefer.value"
        />
        <button
          type="button"
          class="button text-xs whitespace-nowrap"
          :aria-label="`No limit ${i + 1}`"
          @click="limits.splice(i, 1)"
        >
          Take out
        </button>
      </div>
      <button type="button" class="button text-xs" @click="addLimit">Add a limit</button>
    </fieldset>
    <ProblemNote :problem="problem" />
    <div class="flex items-center justify-end gap-3">
      <p v-if="lacks" class="text-sm text-quiet">{{ lacks }}</p>
      <button class="button-main" :disabled="busy || lacks !== ''">Go on with this file</button>
    </div>
  </form>
</template>
