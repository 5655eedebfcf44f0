<script setup lang="ts">
import { constantRegister, outlineOf, registers, type RegisterContext, type Row } from '@hypomet/core'
import type { RegisterRow } from '~/composables/register/useRegister'
import { registerWords } from '~/composables/register/registerWords'

const route = useRoute()
const [slug, id] = [route.params['slug'] as string, route.params['register'] as string]
const api = useApi()
const { data: campaign, error } = await useAsyncData(`campaign-${slug}`, () => api.get(`/api/campaigns/${slug}`))
if (error.value || !registers[id]?.perCampaign || !registerWords[id] || id === 'task')
  throw createError({ statusCode: 404, statusMessage: 'There is no such page.' })
useNumbersOf(() => campaign.value)
const { prefer } = useUnits(() => campaign.value!.system)
useTrail().value = [{ name: campaign.value!.title, to: `/campaigns/${slug}` }, { name: registers[id]!.many }]
useHead({ title: `${registers[id]!.many} · ${campaign.value!.title} · Hypomet` })
const replacing = shallowRef<RegisterRow | null>(null)
const showReplaced = ref(false)
const only = (row: RegisterRow) => id !== 'constant' || showReplaced.value || row['replacedById'] === null
const curveOf = (row: Row, { refs }: RegisterContext) =>
  outlineOf(refs['revision']?.find(r => r.id === row['revisionId'])?.family ?? '')?.curves[String(row['quantity'])] ??
  null
/** Rows that have a page of their own go there. */
const opens: Record<string, (row: RegisterRow) => string> = {
  article: row => `/articles/${row.id}`,
  revision: row => `/articles/${row['articleId']}#revision-${row.id}`,
}
/** What a set of specimens brought along to replace a constant with. */
const measured = computed(() =>
  typeof route.query['measured'] === 'string'
    ? `${route.query['measured']}, n ${String(route.query['n'])}, s ${String(route.query['spread'])}`
    : '',
)
</script>

<template>
  <div class="flex flex-1 flex-col">
    <CampaignNav :slug="slug" :current="id" />
    <main class="mx-auto w-full max-w-[1500px] flex-1 p-4">
      <p v-if="id === 'constant' && measured" class="panel mb-2 py-2 text-sm" role="status">
        Measured: <strong>{{ measured }}</strong>. Choose the constant whose place it is to take: “Replace” at its row.
      </p>
      <RegisterBook
        :id="id"
        :campaign-id="campaign!.id"
        :prefer="prefer"
        :about="registerWords[id]!"
        :can-add="!['article', 'revision', 'test'].includes(id)"
        :only="only"
        v-bind="opens[id] ? { opens: opens[id] } : {}"
      >
        <template v-if="id === 'constant'" #tools
          ><label class="flex items-center gap-1 text-sm"
            ><input v-model="showReplaced" type="checkbox" />Replaced ones too</label
          ></template
        >
        <template v-if="id === 'constant'" #mark="{ row }">
          <span v-if="row['replacedById'] !== null" class="mr-1 text-xs text-quiet">replaced</span>
          <button
            v-else-if="row['origin'] !== 'measured'"
            type="button"
            class="button px-1.5 py-0 text-xs"
            :aria-label="`Replace ${row['property']} of ${row['subject']}`"
            @click="replacing = row"
          >
            Replace
          </button>
        </template>
        <template #row="{ row }">
          <ConstantUse v-if="id === 'constant'" :row="row" @replace="replacing = row" />
          <p v-if="id === 'prediction' && row['lockedAt']" class="text-sm">
            Locked on {{ moment(String(row['lockedAt'])) }} by the first sample of a run: it stands as it was said.
          </p>
          <PredictionCurve v-if="id === 'prediction'" :row="row" :campaign-id="campaign!.id" :prefer="prefer" />
          <p v-if="id === 'test'" class="text-sm">
            <NuxtLink :to="`/tests/${row.id}/plan`">Open its plan and results</NuxtLink>
          </p>
        </template>
        <template v-if="id === 'prediction'" #fields="{ row, set, context }">
          <CurvePaste
            v-if="curveOf(row, context)"
            class="col-span-2"
            :outline="curveOf(row, context)!"
            :prefer="prefer"
            @curve="curve => set({ curve })"
          />
        </template>
        <template #below
          ><p v-if="['article', 'revision', 'test'].includes(id)" class="text-sm text-quiet">
            New ones are made on the <NuxtLink :to="`/campaigns/${slug}`">overview</NuxtLink> or on an article’s page.
          </p></template
        >
      </RegisterBook>
      <ReplaceConstant
        v-if="id === 'constant'"
        :row="replacing"
        :register="constantRegister"
        :prefer="prefer"
        @close="replacing = null"
      />
    </main>
  </div>
</template>
