<script setup lang="ts">
import { loadings, planningOf, templatesFor, type LoadingKind } from '@hypomet/core'
import type { PlanDraft } from '~/composables/plan/usePlanDraft'

/** Another test's plan or a template to begin with; taking one is an edit like any other. */
const props = defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: []; take: [plan: PlanDraft] }>()
const { page, store, units } = useTest()
type Earlier = Omit<AnswerAt<'GET', `/api/tests/${number}/plan/start`>[number], 'plan' | 'loading'> & {
  plan: PlanDraft
  loading: LoadingKind
}
const earlier = ref<Earlier[]>([])
const { problem, run } = useAction()
watch(
  () => props.open,
  open =>
    open &&
    run(async () => {
      earlier.value = (await store.plansToStartFrom()) as Earlier[]
    }),
)
const templates = computed(() =>
  templatesFor(page.value.test.family, {
    properties: page.value.revision.properties,
    facts: page.value.revision.facts,
    limits: page.value.limits,
    prefer: units.prefer.value,
  }),
)
const ways = computed(() =>
  planningOf(page.value.test.family)
    .loadings.map(k => loadings[k].title.toLowerCase())
    .join(', '),
)
</script>

<template>
  <BaseDialog
    :open="open"
    title="Start from …"
    :description="`This kind of test is loaded by: ${ways}. What you take replaces this draft; undo brings it back.`"
    wide
    @close="emit('close')"
  >
    <div class="space-y-4">
      <section>
        <h3 class="label">Templates</h3>
        <ul class="divide-y divide-line">
          <li v-for="p in templates" :key="p.title" class="flex items-center justify-between gap-3 py-1.5">
            <span
              ><span class="font-medium">{{ p.title }}</span
              >{{ ' ' }} <span class="text-sm text-quiet">{{ p.about }}</span></span
            ><button
              type="button"
              class="button shrink-0 whitespace-nowrap text-sm"
              :aria-label="`Take ${p.title}`"
              @click="emit('take', p.plan as PlanDraft)"
            >
              Take it
            </button>
          </li>
        </ul>
      </section>
      <section>
        <h3 class="label">Earlier plans</h3>
        <p v-if="earlier.length === 0" class="text-sm text-quiet">No other test of this kind has a plan yet.</p>
        <ul v-else class="divide-y divide-line">
          <li v-for="p in earlier" :key="p.id" class="flex items-center justify-between gap-3 py-1.5">
            <span
              ><span class="font-medium">{{ p.article }} {{ p.label }}: {{ p.title }}</span
              >{{ ' ' }}
              <span class="text-sm text-quiet"
                >{{ p.campaign }} · {{ loadings[p.loading].title.toLowerCase() }} · {{ p.plan.rungs.length }} rungs ·
                version {{ p.number }}, {{ p.state }}</span
              ></span
            ><button
              type="button"
              class="button shrink-0 whitespace-nowrap text-sm"
              :aria-label="`Take ${p.article} ${p.label}: ${p.title}`"
              @click="emit('take', p.plan)"
            >
              Take it
            </button>
          </li>
        </ul>
      </section>
      <ProblemNote :problem="problem" />
    </div>
  </BaseDialog>
</template>
