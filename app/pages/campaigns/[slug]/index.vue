<script setup lang="ts">
import { Pencil, Plus } from '@lucide/vue'
import { campaignRegister, type Row } from '@hypomet/core'
import type { ArticlePage, ArticleView } from '~/types/api'

const slug = useRoute().params['slug'] as string
const api = useApi()
const undo = useUndoStore()
const {
  data: campaign,
  error,
  refresh,
} = await useAsyncData(`campaign-${slug}`, () => api.get(`/api/campaigns/${slug}`))
if (error.value) throw createError({ statusCode: 404, statusMessage: 'There is no such campaign.' })
watch(
  () => undo.changes,
  async () => {
    await refresh()
    // Undone to before it was made.
    if (error.value) await navigateTo('/')
  },
)

useTrail().value = [{ name: campaign.value!.title }]
useHead({ title: () => `${campaign.value?.title} · Hypomet` })
useNumbersOf(() => campaign.value)
const units = useUnits(() => campaign.value!.system)
const today = localDay()
const dialog = ref<'article' | 'revision' | 'limit' | 'test' | 'campaign' | null>(null)
const chosen = shallowRef<ArticleView | null>(null)
const constants = ref<ArticlePage['constants']>([])
async function open(kind: NonNullable<typeof dialog.value>, a: ArticleView | null): Promise<void> {
  chosen.value = a
  // A first revision takes its numbers from constants as any later one does.
  if (kind === 'article' || kind === 'revision')
    constants.value = (await api.get('/api/registers/constant', { campaignId: campaign.value!.id }))
      .rows as ArticlePage['constants']
  dialog.value = kind
}
const limits = await useRegister('limit', campaign.value!.id, () => units.prefer.value)
const campaigns = await useRegister('campaign')
const row = computed(() => campaigns.rows.value.find(r => r.id === campaign.value!.id) ?? null)
const saveCampaign = (values: Row, version: number | null) => campaigns.change(row.value!, values, version ?? undefined)

/** Threads that stand open: what has been tested and is not settled; others at a click. */
const openIds = ref<number[]>(
  campaign
    .value!.articles.filter(
      a => campaign.value!.articles.length <= 3 || a.revisions.some(r => r.tests.some(t => t.ranOn !== null)),
    )
    .map(a => a.id),
)
// What was just made stands open, too.
watch(
  () => campaign.value?.articles.map(a => a.id) ?? [],
  (now, before) => {
    openIds.value = [...openIds.value, ...now.filter(id => !before.includes(id))]
  },
)
const toggle = (id: number) => {
  openIds.value = openIds.value.includes(id) ? openIds.value.filter(x => x !== id) : [...openIds.value, id]
}
const allOpen = computed(() => openIds.value.length === campaign.value!.articles.length)
const { thread, nextOf } = useThread(() => campaign.value!.system)
const family = computed(() => campaign.value!.articles.length)
</script>

<template>
  <div v-if="campaign" class="flex flex-1 flex-col">
    <CampaignNav :slug="slug" current="" />
    <main v-if="campaign" class="mx-auto w-full max-w-[1500px] flex-1 space-y-3 p-4">
      <header class="flex items-start justify-between gap-4">
        <div>
          <h1>{{ campaign.title }}</h1>
          <p class="text-quiet">{{ campaign.purpose }}</p>
        </div>
        <div class="flex items-center gap-2">
          <span class="text-xs text-quiet"
            >{{ campaign.rule }} decision · {{ campaign.convention.replaceAll('-', ' ') }}</span
          >
          <a
            class="button text-sm"
            :href="`/api/campaigns/${slug}/export`"
            download
            data-hint="Limits, predictions, constants, actions, articles, revisions, tests, as JSON"
            >Export</a
          >
          <button type="button" class="button text-sm" @click="open('campaign', null)">
            <Pencil class="size-3.5" aria-hidden="true" />Edit
          </button>
          <button type="button" class="button-main" @click="open('article', null)">
            <Plus class="size-4" aria-hidden="true" />Article
          </button>
        </div>
      </header>
      <ScheduleGlance :campaign="campaign" :today="today" />
      <EmptyState
        v-if="campaign.articles.length === 0"
        title="No articles yet"
        text="An article is the hardware under test. It has revisions, limits, and tests on each revision."
        action="Add the first article"
        @act="open('article', null)"
      />
      <section v-else class="panel">
        <div class="mb-1 flex items-center justify-between">
          <h2>Articles, their limits, and where each stands</h2>
          <button
            v-if="family > 1"
            type="button"
            class="button px-1.5 py-0.5 text-xs"
            @click="openIds = allOpen ? [] : campaign.articles.map(a => a.id)"
          >
            {{ allOpen ? 'Close all threads' : 'Open all threads' }}
          </button>
        </div>
        <LimitsMatrix :campaign="campaign" :open-ids="openIds" @toggle="toggle">
          <template #thread="{ article }">
            <div class="mb-1 mt-3 flex gap-2">
              <button type="button" class="button px-1.5 py-0.5 text-xs" @click="open('revision', article)">
                New revision</button
              ><button type="button" class="button px-1.5 py-0.5 text-xs" @click="open('test', article)">
                New test</button
              ><button type="button" class="button px-1.5 py-0.5 text-xs" @click="open('limit', article)">
                New limit
              </button>
            </div>
            <RevisionThread :revisions="thread(article)" :next="nextOf(article)" />
          </template>
        </LimitsMatrix>
      </section>
      <section v-if="campaign.actions.length > 0" class="panel">
        <h2 class="mb-1">Open actions</h2>
        <ul class="text-sm">
          <li v-for="a in campaign.actions" :key="a.id">
            <NuxtLink :to="`/campaigns/${slug}/action?row=${a.id}`">{{ a.question }}</NuxtLink>{{ ' ' }}
            <span :class="a.due && a.due < today ? 'font-semibold text-fail' : 'text-quiet'">{{
              a.due ? day(a.due) : 'no date'
            }}</span>
          </li>
        </ul>
      </section>
      <RevisionDialog
        :open="dialog === 'article' || dialog === 'revision'"
        :campaign-id="campaign.id"
        :prefer="units.prefer.value"
        :article="dialog === 'revision' ? chosen : null"
        :revision="null"
        :constants="constants"
        @close="dialog = null"
        @saved="refresh()"
        @stale="refresh()"
      />
      <BaseDialog
        :open="dialog === 'limit'"
        wide
        title="New limit"
        description="A result, the side it must stay on, and where that comes from."
        @close="dialog = null"
      >
        <RegisterForm
          v-if="dialog === 'limit' && chosen"
          :register="limits.register"
          :row="null"
          :base="{
            articleId: chosen.id,
            quantity: Object.entries(chosen.resultTypes).find(([, r]) => r.limited)?.[0] ?? null,
          }"
          :hide="['articleId']"
          :context="limits.context.value"
          action="Add limit"
          :save="values => limits.create(values)"
          @saved="dialog = null"
          @cancel="dialog = null"
        />
      </BaseDialog>
      <BaseDialog :open="dialog === 'campaign'" wide title="Campaign" @close="dialog = null">
        <RegisterForm
          v-if="row"
          :register="campaignRegister"
          :row="row"
          :context="campaigns.context.value"
          action="Save"
          :save="saveCampaign"
          @saved="dialog = null"
          @cancel="dialog = null"
        />
      </BaseDialog>
      <TestDialog v-if="chosen" :open="dialog === 'test'" :revisions="chosen.revisions" @close="dialog = null" />
    </main>
  </div>
</template>
