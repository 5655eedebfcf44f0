<script setup lang="ts">
import { Check, Circle, ShieldAlert } from '@lucide/vue'

const { page, store, api } = useTest()
const { busy, problem, run } = useAction()
const at = ref(0)
const overriding = ref<string | null>(null)
const reason = ref('')
const person = usePerson()

const items = computed(() => page.value.ready)
/** What is ticked off; lessons are answered above. */
type Tick = Exclude<(typeof items.value)[number], { group: 'Lessons' }>
const list = computed(() => items.value.filter((i): i is Tick => i.group !== 'Lessons'))
const groups = computed(() => [...new Set(items.value.map(i => i.group))].filter(g => g !== 'Lessons').map(group => ({ group, items: list.value.filter(i => i.group === group) })))
const open = computed(() => items.value.filter(i => i.state === 'open').length)
const fixed = computed(() => page.value.runs.length > 0)

const mark = (key: string, state: 'open' | 'done' | 'overridden', why = '') => run(async () => {
  await api.put(`/api/tests/${page.value.test.id}/ready`, { key, state, reason: why })
  await store.refresh()
  overriding.value = null
})
function override(key: string): void {
  overriding.value = key
  reason.value = ''
}
onKeyStroke(['j', 'k', ' ', 'o'], e => {
  if (isTyping(e) || list.value.length === 0 || fixed.value) return
  e.preventDefault()
  const item = list.value[at.value]!
  if (e.key === 'j') at.value = Math.min(list.value.length - 1, at.value + 1)
  else if (e.key === 'k') at.value = Math.max(0, at.value - 1)
  else if (e.key === 'o') override(item.key)
  else if (item.automatic === undefined) void mark(item.key, item.state === 'done' ? 'open' : 'done')
})
</script>

<template>
  <main class="space-y-3">
    <header class="flex items-end justify-between gap-4">
      <div>
        <h1>{{ open === 0 && items.length > 0 ? 'Ready to load' : `${open} of ${items.length} still open` }}</h1>
        <p class="text-sm text-quiet">Made from the plan. What is open blocks the run; it can be overridden by name, with a reason.</p>
      </div>
      <div class="flex items-center gap-3">
        <p v-if="!fixed" class="text-xs text-quiet"><span class="key">j</span> <span class="key">k</span> move · <span class="key">space</span> tick · <span class="key">o</span> override</p>
        <NuxtLink v-if="open === 0 && items.length > 0" :to="`/tests/${page.test.id}/run`" class="button-main">To the run</NuxtLink>
      </div>
    </header>
    <EmptyState v-if="items.length === 0" title="No checklist yet" text="The checklist follows from the plan: its channels, ranges and loads." action="Plan the test" :to="`/tests/${page.test.id}/plan`" />
    <ProblemNote :problem="problem" />
    <p v-if="page.view" class="rounded-md bg-caution-ground px-3 py-2 text-sm text-caution">{{ page.view.caution }}</p>
    <FiredLessons :firings="page.firings" :campaign-id="page.campaign.id" :fixed="fixed" @answered="store.refresh()" />
    <div class="gap-3 lg:columns-2">
    <section v-for="g in groups" :key="g.group" class="panel mb-3 break-inside-avoid">
      <h2 class="mb-1">{{ g.group }}</h2>
      <ul class="divide-y divide-line">
        <li v-for="item in g.items" :key="item.key" :class="['grid grid-cols-[1.6rem_1fr_auto] items-start gap-2 rounded px-1 py-1.5', list[at]?.key === item.key && !fixed ? 'bg-accent-soft' : '']" @click="at = list.indexOf(item)">
          <Check v-if="item.state === 'done'" class="mt-0.5 size-5 text-pass" aria-label="done" />
          <ShieldAlert v-else-if="item.state === 'overridden'" class="mt-0.5 size-5 text-open" aria-label="overridden" />
          <Circle v-else class="mt-0.5 size-5 text-fail" aria-label="open" />
          <div>
            <p class="font-medium">{{ item.text }}</p>
            <p class="text-xs text-quiet">{{ item.why }}</p>
            <p v-if="item.state === 'overridden'" class="text-xs text-open">Overridden by {{ item.by }}: {{ item.reason }}</p>
            <p v-else-if="item.state === 'done' && item.by" class="text-xs text-quiet">{{ item.by }}, {{ item.at ? moment(item.at) : '' }}</p>
            <form v-if="overriding === item.key" class="mt-1 flex gap-2" @submit.prevent="mark(item.key, 'overridden', reason)">
              <label class="flex-1"><span class="sr-only">Reason for overriding</span><input v-model="reason" v-focus class="field" placeholder="Why it may go ahead all the same" @keydown.esc="overriding = null"></label>
              <button class="button-main" :disabled="busy || reason.trim() === '' || !person">Override{{ person ? ` as ${person}` : '' }}</button>
              <p v-if="!person" class="self-center text-xs text-fail">Say who you are, top right.</p>
            </form>
          </div>
          <div v-if="!fixed" class="flex gap-1">
            <button v-if="item.automatic === undefined" type="button" class="button text-xs" :disabled="busy" :aria-label="`${item.state === 'done' ? 'Untick' : 'Tick off'}: ${item.text}`" @click="mark(item.key, item.state === 'done' ? 'open' : 'done')">{{ item.state === 'done' ? 'Untick' : 'Done' }}</button>
            <button v-if="item.state === 'open'" type="button" class="button text-xs" :aria-label="`Override: ${item.text}`" @click="override(item.key)">Override</button>
          </div>
        </li>
      </ul>
    </section>
    </div>
  </main>
</template>
