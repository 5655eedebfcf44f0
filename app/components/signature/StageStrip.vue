<script setup lang="ts">
import type { StageState } from '~/types/api'

/** Plan · Ready · Run · Reduce · Judge · Change, each with its state in words; keys 1–6 go there. */
const props = defineProps<{ testId: number; stages: StageState[]; current: string }>()

const titles: Record<string, string> = {
  plan: 'Plan',
  ready: 'Ready',
  run: 'Run',
  reduce: 'Reduce',
  judge: 'Judge',
  change: 'Change',
}
const to = (stage: string) => `/tests/${props.testId}/${stage}`

const router = useRouter()
onKeyStroke(['1', '2', '3', '4', '5', '6'], e => {
  // While the next test's page is loading, this strip still listens; its keys are no longer meant.
  if (isTyping(e) || router.currentRoute.value.params['id'] !== String(props.testId)) return
  void navigateTo(to(props.stages[Number(e.key) - 1]!.stage))
})
</script>

<template>
  <nav aria-label="Stages of the test" class="no-print grid grid-cols-6 border-b border-line bg-panel">
    <NuxtLink
      v-for="(s, i) in stages"
      :key="s.stage"
      :to="to(s.stage)"
      :aria-current="s.stage === current ? 'step' : undefined"
      :class="[
        'group relative border-r border-line px-3 py-1.5 no-underline last:border-r-0',
        s.stage === current ? 'bg-accent-soft' : 'hover:bg-ground',
      ]"
    >
      <span class="flex items-center gap-1.5 font-semibold text-ink">
        <span
          :class="[
            'block h-3 w-1 rounded-sm',
            s.state === 'done' ? 'bg-accent' : s.state === 'open' ? 'bg-open' : 'bg-line',
          ]"
          aria-hidden="true"
        />
        {{ titles[s.stage] }}
        <span class="key ml-auto text-quiet" aria-hidden="true">{{ i + 1 }}</span>
      </span>
      <span class="block truncate pl-2.5 text-xs text-quiet">{{ s.words }}</span>
      <span v-if="s.stage === current" class="absolute inset-x-0 bottom-0 h-0.5 bg-accent" aria-hidden="true" />
    </NuxtLink>
  </nav>
</template>
