<script setup lang="ts">
import { Pencil, Plus } from '@lucide/vue'
import { articleRegister, factorHistory, type Kind, type Row } from '@hypomet/core'

const id = Number(useRoute().params['id'])
const api = useApi()
const undo = useUndoStore()
const { data, error, refresh } = await useAsyncData(`article-${id}`, () => api.get(`/api/articles/${id}`))
if (error.value) throw createError({ statusCode: 404, statusMessage: 'There is no such article.' })
watch(
  () => undo.changes,
  async () => {
    await refresh()
    // Undone to before it was made.
    if (error.value) await navigateTo('/')
  },
)
const article = computed(() => data.value!.article)
const campaign = computed(() => data.value!.campaign)
useTrail().value = [
  { name: campaign.value.title, to: `/campaigns/${campaign.value.slug}` },
  { name: article.value.name },
]
useHead({ title: () => `${data.value?.article.name ?? 'Article'} · Hypomet` })
useNumbersOf(() => campaign.value)
const { units, thread, nextOf } = useThread(() => campaign.value.system)
const dialog = ref<'article' | 'new' | 'edit' | 'test' | null>(null)
const editing = ref<number | null>(null)
const revision = computed(() => article.value.revisions.find(r => r.id === editing.value) ?? null)
function edit(revisionId: number): void {
  editing.value = revisionId
  dialog.value = 'edit'
}
const articles = await useRegister('article', campaign.value.id)
const row = computed(() => articles.rows.value.find(r => r.id === id) ?? null)
const saveArticle = (values: Row, version: number | null) => articles.change(row.value!, values, version ?? undefined)

const { properties, history } = useFactors(() => article.value, units)
const from = ref<number | null>(article.value.revisions.at(-2)?.id ?? null)
const to = ref<number | null>(article.value.revisions.at(-1)?.id ?? null)
/** Revisions that still stand on a number that was replaced. */
const outdated = computed(() =>
  article.value.revisions.flatMap(r =>
    Object.values(r.constants).flatMap(c => {
      const old = data.value!.constants.find(x => x.id === c && x.replacedById !== null)
      return old ? [`${r.label}: ${old.property}`] : []
    }),
  ),
)
const results = computed(() =>
  Object.entries(article.value.resultTypes).filter(([key]) =>
    article.value.revisions.some(r => r.tests.some(t => t.results?.[key])),
  ),
)
const asked = ref('')
watch(
  results,
  list => {
    if (!list.some(([key]) => key === asked.value)) asked.value = list[0]?.[0] ?? ''
  },
  { immediate: true },
)
const answer = computed(() =>
  asked.value === ''
    ? null
    : {
        ...factorHistory(history(asked.value)),
        kind: article.value.resultTypes[asked.value]!.kind as Kind,
        label: article.value.resultTypes[asked.value]!.label,
      },
)
</script>

<template>
  <main v-if="data" class="mx-auto w-full max-w-[1500px] flex-1 space-y-3 p-4">
    <header class="flex items-start justify-between gap-4">
      <div class="flex gap-3">
        <img
          v-if="article.photo"
          :src="`/api/attachments/${article.photo}/thumbnail`"
          alt=""
          class="h-14 rounded border border-line object-contain"
        />
        <div>
          <h1>{{ article.name }}</h1>
          <p class="text-quiet">
            {{ article.familyTitle }} · {{ article.note
            }}<template v-if="article.features.length > 0"> · {{ article.features.join(', ') }}</template>
          </p>
        </div>
      </div>
      <div class="flex shrink-0 gap-2">
        <button type="button" class="button text-sm" @click="dialog = 'article'">
          <Pencil class="size-3.5" aria-hidden="true" />Edit
        </button>
        <NuxtLink :to="`/campaigns/${campaign.slug}/limit`" class="button text-sm">Limits</NuxtLink
        ><NuxtLink :to="`/campaigns/${campaign.slug}/prediction`" class="button text-sm">Predictions</NuxtLink>
        <button type="button" class="button text-sm" @click="dialog = 'test'">New test</button>
        <button type="button" class="button-main text-sm" @click="dialog = 'new'">
          <Plus class="size-4" aria-hidden="true" />New revision
        </button>
      </div>
    </header>
    <RevisionThread :revisions="thread(article)" :next="nextOf(article)" />
    <div
      :class="[
        'grid items-start gap-3',
        article.revisions.length > 3 ? 'grid-cols-1' : 'grid-cols-[minmax(0,1fr)_minmax(0,1.15fr)]',
      ]"
    >
      <section class="panel">
        <h2 class="mb-1">Properties of every revision</h2>
        <p v-if="outdated.length > 0" class="mb-1 text-sm text-open">
          Sized from replaced numbers: {{ outdated.join('; ') }}.
          <NuxtLink :to="`/campaigns/${campaign.slug}/constant`">Constants</NuxtLink>
        </p>
        <PropertyTable :revisions="article.revisions" :properties="properties" @edit="edit" />
      </section>
      <div :class="['grid items-start gap-3', article.revisions.length > 3 ? 'grid-cols-2' : 'grid-cols-1']">
        <CompareRevisions
          v-model:from="from"
          v-model:to="to"
          :article="article"
          :properties="properties"
          :system="campaign.system"
        />
        <section class="panel" aria-label="Effect of factors">
          <div class="mb-1 flex items-center gap-2">
            <h2>Which factor moved</h2>
            <select v-if="results.length > 0" v-model="asked" class="field w-56" aria-label="Result asked about">
              <option v-for="[key, r] in results" :key="key" :value="key">{{ r.label }}</option>
            </select>
          </div>
          <FactorAnswer v-if="answer" :answer="answer" :properties="properties" :system="campaign.system" />
          <p v-else class="text-sm text-quiet">
            No revision has results yet. Once two have, this says which factor moved them, by how much, and how sure
            that is.
          </p>
        </section>
      </div>
    </div>
    <TrialPlan
      v-if="answer"
      :revisions="history(asked)"
      :properties="properties"
      :kind="answer.kind"
      :label="answer.label"
      :prefer="units.prefer.value"
    />
    <section class="panel"><AttachmentStrip :id="article.id" entity="article" title="Photos and papers" /></section>
    <RevisionDialog
      :open="dialog === 'new' || dialog === 'edit'"
      :campaign-id="campaign.id"
      :prefer="units.prefer.value"
      :article="article"
      :revision="dialog === 'edit' ? revision : null"
      :constants="data.constants"
      @close="dialog = null"
      @saved="refresh()"
      @stale="refresh()"
    />
    <BaseDialog :open="dialog === 'article'" wide title="Article" @close="dialog = null"
      ><RegisterForm
        v-if="row"
        :register="articleRegister"
        :row="row"
        :context="articles.context.value"
        action="Save"
        :save="saveArticle"
        @saved="dialog = null"
        @cancel="dialog = null"
    /></BaseDialog>
    <TestDialog :open="dialog === 'test'" :revisions="article.revisions" @close="dialog = null" />
  </main>
</template>
