<script setup lang="ts">
import {
  families,
  familyOutlines,
  formOf,
  knownFactsOf,
  quantityToSi,
  wordsOf,
  writeFact,
  type Fact,
  type QuantityInput,
  type Row,
  type UnitPreference,
} from '@hypomet/core'
import { copyOf } from '~/composables/plan/usePlanDraft'
import type { ArticlePage, ArticleView, RevisionView } from '~/types/api'

/**
 * A new article with its first revision, a new revision, or one that is looked at again. Properties come from the
 * family's own schema; further ones are free.
 */
const props = defineProps<{
  open: boolean
  campaignId: number
  prefer: UnitPreference
  article: ArticleView | null
  revision: RevisionView | null
  constants: ArticlePage['constants']
}>()
const emit = defineEmits<{ close: []; saved: []; stale: [] }>()
const campaigns = useCampaignStore()
const registers = useRegistersStore()
const undo = useUndoStore()
const { busy, problem, run } = useAction()
/** A kind of test that calculates its article stands first: there is most to fill in. */
const FIRST = (familyOutlines.find(f => families[f.id]?.stages.article) ?? familyOutlines[0]!).id
const empty = () => ({
  name: '',
  family: FIRST,
  note: '',
  features: '',
  places: '',
  label: 'A',
  parentId: null as number | null,
  changed: '',
  why: '',
  mass: null as QuantityInput | null,
  properties: {} as Row,
  facts: [] as Fact[],
  constants: {} as Record<string, number>,
})
const form = ref(empty())
let before = ''
const version = ref<number | null>(null)
const draft = useDraft(
  () => `revision-${props.article?.id ?? 'article'}-${props.revision?.id ?? 'new'}`,
  form,
  version,
  () => props.open && JSON.stringify(form.value) !== before,
)

const schema = computed(() => families[props.article?.family ?? form.value.family]?.stages.article)
const fields = computed(() => (schema.value ? formOf(schema.value) : null))
const variants = computed(() => (fields.value?.type === 'variant' ? fields.value : null))
const current = computed(() =>
  fields.value?.type === 'group'
    ? fields.value.fields
    : (variants.value?.options.find(o => o.name === form.value.properties[variants.value!.by])?.fields ?? []),
)

watch(
  () => props.open,
  isOpen => {
    if (!isOpen) return
    problem.value = null
    const from = props.revision ?? props.article?.revisions.at(-1) ?? null
    Object.assign(
      form.value,
      empty(),
      from
        ? {
            label: props.revision ? from.label : nextLabel(from.label),
            parentId: props.revision ? from.parentId : from.id,
            properties: copyOf(from.properties),
            facts: copyOf(from.facts),
            constants: { ...from.constants },
          }
        : {},
      props.revision ? { changed: from!.changed, why: from!.why, mass: from!.mass } : {},
    )
    version.value = props.revision?.version ?? null
    startProperties()
    before = JSON.stringify(form.value)
    if (import.meta.client) draft.restore()
  },
  { immediate: true },
)
watch(() => form.value.family, startProperties)
function startProperties(): void {
  const v = variants.value
  if (v && form.value.properties[v.by] === undefined) form.value.properties = { [v.by]: v.options[0]!.name }
}

/** Properties that a constant of the campaign says, by their title. */
const linkable = computed(() =>
  current.value.flatMap(f => {
    const fitting =
      f.type === 'quantity'
        ? props.constants.filter(
            c =>
              c.property.toLowerCase() === f.title.toLowerCase() &&
              (c.replacedById === null || form.value.constants[f.key] === c.id),
          )
        : []
    return fitting.length > 0 ? [{ key: f.key, title: f.title, constants: fitting }] : []
  }),
)
function link(key: string, id: number): void {
  const c = props.constants.find(x => x.id === id)
  form.value.constants = Object.fromEntries(
    Object.entries({ ...form.value.constants, [key]: id }).filter(([, v]) => v > 0),
  )
  if (c) form.value.properties = { ...form.value.properties, [key]: c.entered }
}
/** A number that is typed over is no longer the constant's. */
function setProperties(next: Row): void {
  form.value.constants = Object.fromEntries(
    Object.entries(form.value.constants).filter(
      ([key]) => JSON.stringify(next[key]) === JSON.stringify(form.value.properties[key]),
    ),
  )
  form.value.properties = next
}

const wordsIn = (text: string) =>
  text
    .split(/[;,]/)
    .map(w => w.trim())
    .filter(Boolean)

/** A section that was only looked at says nothing of the article. */
const said = computed(() => {
  const { properties } = form.value
  return Object.keys(properties).some(key => key !== variants.value?.by) ? properties : {}
})

const save = () =>
  run(async () => {
    const mass =
      form.value.mass === null || typeof form.value.mass === 'number'
        ? form.value.mass
        : quantityToSi(form.value.mass, 'mass')
    const values = {
      label: form.value.label,
      parentId: form.value.parentId,
      changed: form.value.changed,
      why: form.value.why,
      mass,
      properties: said.value,
      facts: form.value.facts,
      constants: form.value.constants,
    }
    if (!props.article) {
      const { step } = await campaigns.createArticle({
        campaignId: props.campaignId,
        name: form.value.name,
        family: form.value.family,
        note: form.value.note,
        features: wordsIn(form.value.features),
        places: wordsIn(form.value.places),
        revision: values,
      })
      undo.did(step, `new article “${form.value.name}”`)
    } else {
      const batch = props.revision
        ? { changes: [{ id: props.revision.id, version: version.value!, values }] }
        : { creates: [{ ...values, articleId: props.article.id }] }
      const { step } = await registers.write('revision', {
        campaignId: props.campaignId,
        ...batch,
      })
      undo.did(step, `revision ${form.value.label} of ${props.article.name}${props.revision ? ' changed' : ''}`)
    }
    draft.clear()
    emit('saved')
    emit('close')
  })
// Theirs becomes what mine is saved over, once it has been told.
watch(problem, p => p?.code === 'changed-meanwhile' && emit('stale'))
watch(
  () => props.revision?.version,
  v => {
    if (problem.value?.code === 'changed-meanwhile') version.value = v ?? null
  },
)
const at = computed(() => problem.value?.place.path ?? '')
const complaintOf = (key: string) => (at.value === key ? problem.value!.message : undefined)
const factProblem = computed(() => {
  const i = /^facts\.(\d+)/.exec(at.value)?.[1]
  return i === undefined ? null : { index: Number(i), message: problem.value!.message }
})
const known = computed(() => knownFactsOf(props.article?.family ?? form.value.family))
const placed = computed(
  () =>
    factProblem.value !== null ||
    at.value.startsWith('properties.') ||
    ['label', 'parentId', 'name'].includes(at.value),
)
const factNames = computed(() => [...new Set(props.article?.revisions.flatMap(r => r.facts.map(f => f.name)) ?? [])])
const parents = computed(() => props.article?.revisions.filter(r => r.id !== props.revision?.id) ?? [])
function leave(): void {
  draft.clear()
  emit('close')
}
</script>

<template>
  <BaseDialog
    :open="open"
    wide
    :title="
      revision
        ? `Revision ${revision.label} of ${article!.name}`
        : article
          ? `New revision of ${article.name}`
          : 'New article'
    "
    description="What is needed to calculate it, and what else may have moved its results. Numbers with their
      units, as you would write them."
    @close="emit('close')"
  >
    <form class="space-y-3" @submit.prevent="save">
      <div class="grid grid-cols-3 gap-3">
        <template v-if="!article">
          <div>
            <label class="block"
              ><span class="label">Article</span
              ><input
                v-model="form.name"
                class="field"
                placeholder="Hanger arm, mast, …"
                :aria-invalid="!!complaintOf('name')"
            /></label>
            <p v-if="complaintOf('name')" class="problem">{{ complaintOf('name') }}</p>
          </div>
          <label
            ><span class="label">Kind of test</span
            ><select v-model="form.family" class="field">
              <option v-for="f in familyOutlines" :key="f.id" :value="f.id">{{ f.title }}</option>
            </select></label
          >
          <label
            ><span class="label">Features that lessons look for</span
            ><input v-model="form.features" class="field" placeholder="bonded; thin shell"
          /></label>
          <label class="col-span-2"
            ><span class="label">What it is</span><input v-model="form.note" class="field"
          /></label>
          <label
            ><span class="label">Places: ends, sections, seams, parts</span
            ><input v-model="form.places" class="field" placeholder="root; splice; tip"
          /></label>
        </template>
        <div>
          <label class="block"
            ><span class="label">Revision</span
            ><input v-model="form.label" class="field" :aria-invalid="!!complaintOf('label')"
          /></label>
          <p v-if="complaintOf('label')" class="problem">{{ complaintOf('label') }}</p>
        </div>
        <div v-if="article">
          <label class="block"
            ><span class="label">Follows</span
            ><select v-model="form.parentId" class="field">
              <option :value="null">–</option>
              <option v-for="r in parents" :key="r.id" :value="r.id">{{ r.label }}</option>
            </select></label
          >
          <p v-if="complaintOf('parentId')" class="problem">{{ complaintOf('parentId') }}</p>
        </div>
        <QuantityField v-model="form.mass" kind="mass" :prefer="prefer" label="Mass as weighed (may wait)" optional />
        <template v-if="article">
          <label class="col-span-2"
            ><span class="label">What changed</span><input v-model="form.changed" class="field"
          /></label>
          <label><span class="label">Why</span><input v-model="form.why" class="field" /></label>
        </template>
      </div>
      <div v-if="fields" class="rounded-md border border-line p-2">
        <label v-if="variants" class="mb-2 block w-48"
          ><span class="label">{{ wordsOf(variants.by) }}</span
          ><select
            class="field"
            :value="form.properties[variants.by]"
            @change="setProperties({ [variants!.by]: ($event.target as HTMLSelectElement).value })"
          >
            <option v-for="o in variants.options" :key="o.name" :value="o.name">{{ o.name }}</option>
          </select></label
        >
        <div class="grid grid-cols-3 gap-x-3 gap-y-2">
          <SettingsField
            v-for="f in current"
            :key="f.key"
            :field="f"
            :model-value="form.properties[f.key]"
            :path="`properties.${f.key}`"
            :prefer="prefer"
            :problem="problem"
            @update:model-value="setProperties({ ...form.properties, [f.key]: $event })"
          />
        </div>
        <div v-if="linkable.length > 0" class="mt-2 grid grid-cols-4 gap-2 border-t border-line pt-2">
          <label v-for="l in linkable" :key="l.key"
            ><span class="label">{{ l.title }} from</span
            ><select
              class="field text-xs"
              :value="form.constants[l.key] ?? 0"
              @change="link(l.key, Number(($event.target as HTMLSelectElement).value))"
            >
              <option :value="0">typed here</option>
              <option v-for="c in l.constants" :key="c.id" :value="c.id">
                {{ c.subject }}: {{ writeFact(c.entered) }}{{ c.replacedById === null ? '' : ' (replaced)' }}
              </option>
            </select></label
          >
        </div>
      </div>
      <KnownFacts v-model="form.facts" :known="known" :prefer="prefer" :names="factNames" :problem="factProblem" />
      <p v-if="draft.restored.value" class="text-xs text-open">
        This is what you entered before and did not save; Cancel discards it.
      </p>
      <ProblemNote v-if="!placed" :problem="problem" />
      <div class="flex justify-end gap-2">
        <button type="button" class="button" @click="leave">Cancel</button
        ><button class="button-main" :disabled="busy">
          {{ revision ? 'Save revision' : article ? 'Add revision' : 'Add article' }}
        </button>
      </div>
    </form>
  </BaseDialog>
</template>
