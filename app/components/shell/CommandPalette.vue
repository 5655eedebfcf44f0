<script setup lang="ts">
import {
  Combobox,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
  Dialog,
  DialogPanel,
  DialogTitle,
} from '@headlessui/vue'
import { Search } from '@lucide/vue'
import { calcList, registers } from '@hypomet/core'
import type { Hit, Names } from '~/types/api'

/** Finds any screen by its name, and whatever is kept by any of its words; opened by `/`. */
const open = defineModel<boolean>('open', { required: true })
const words = ref('')
const campaigns = shallowRef<Names>([])
const session = useSessionStore()
/** What the server finds for the same words. */
const hits = ref<Hit[]>([])

watch(
  open,
  async isOpen => {
    if (!isOpen) return
    words.value = ''
    hits.value = []
    campaigns.value = await session.names()
  },
  { immediate: true },
)

const look = useDebounceFn(async (text: string) => {
  const found = text.trim().length < 2 ? [] : await session.search(text)
  if (text === words.value) hits.value = found
}, 120)
watch(words, look)

interface Target {
  key: string
  name: string
  where: string
  to: string
}

const stages = ['plan', 'ready', 'run', 'reduce', 'judge', 'change']
const targets = computed<Target[]>(() => [
  { key: 'bench', name: 'Bench', where: 'what is due and open', to: '/' },
  { key: 'sensors', name: 'Sensors', where: 'inventory and calibration', to: '/sensors' },
  { key: 'compare', name: 'Compare', where: 'any tests beside one another, point by point', to: '/compare' },
  { key: 'lessons', name: 'Lessons', where: 'what went wrong once, and what to do instead', to: '/lessons' },
  { key: 'people', name: 'People', where: 'names and roles', to: '/people' },
  { key: 'import', name: 'Import', where: 'a logger’s file', to: '/import' },
  { key: 'proofs', name: 'Records and proofs', where: 'audit trail, verification, backups', to: '/proofs' },
  { key: 'worksheets', name: 'Worksheets', where: 'every calculation on its own', to: '/worksheets' },
  ...campaigns.value.flatMap(c => [
    { key: `c${c.id}`, name: c.title, where: 'campaign', to: `/campaigns/${c.slug}` },
    ...(['limit', 'prediction', 'constant', 'action', 'test'] as const).map(r => ({
      key: `c${c.id}${r}`,
      name: `${registers[r]!.many}`,
      where: `of ${c.title}`,
      to: `/campaigns/${c.slug}/${r}`,
    })),
    ...c.articles.flatMap(a => [
      { key: `a${a.id}`, name: a.name, where: `article of ${c.title}`, to: `/articles/${a.id}` },
      ...a.revisions.flatMap(r =>
        r.tests.flatMap(t => [
          ...stages.map(s => ({
            key: `t${t.id}${s}`,
            name: `${a.name} ${r.label} · ${s}`,
            where: t.title,
            to: `/tests/${t.id}/${s}`,
          })),
          { key: `t${t.id}report`, name: `${a.name} ${r.label} · report`, where: t.title, to: `/reports/${t.id}` },
        ]),
      ),
    ]),
  ]),
  ...calcList.map(c => ({ key: `w${c.id}`, name: c.title, where: 'worksheet', to: `/worksheets/${c.id}` })),
])
const found = computed(() => {
  const parts = words.value.toLowerCase().split(/\s+/).filter(Boolean)
  const screens = targets.value.filter(t => parts.every(p => `${t.name} ${t.where}`.toLowerCase().includes(p)))
  const byName = screens.filter(t => parts.every(p => t.name.toLowerCase().includes(p))).slice(0, 8)
  const rest = screens.filter(t => !byName.includes(t))
  return [...byName, ...hits.value.map(h => ({ ...h, key: `hit${h.key}` })), ...rest].slice(
    0,
    byName.length + hits.value.length > 12 ? 24 : 14,
  )
})

function go(target: Target | null): void {
  if (!target) return
  open.value = false
  void (target.to.startsWith('/api/') ? navigateTo(target.to, { open: { target: '_blank' } }) : navigateTo(target.to))
}
</script>

<template>
  <Dialog :open="open" class="relative z-50" @close="open = false">
    <div class="fixed inset-0 bg-black/40" aria-hidden="true" />
    <div class="fixed inset-0 flex items-start justify-center p-6 pt-24">
      <DialogPanel class="w-full max-w-xl overflow-hidden rounded-xl border border-line bg-panel shadow-2xl">
        <DialogTitle class="sr-only">Go to</DialogTitle>
        <Combobox :model-value="null" nullable @update:model-value="go">
          <div class="flex items-center gap-2 border-b border-line px-3">
            <Search class="size-4 text-quiet" aria-hidden="true" />
            <ComboboxInput
              class="w-full bg-transparent py-3 outline-none"
              placeholder="Campaign, article, limit, sensor, lesson, channel …"
              aria-label="Go to"
              autocomplete="off"
              @change="words = $event.target.value"
            />
          </div>
          <ComboboxOptions static class="max-h-96 overflow-y-auto py-1">
            <ComboboxOption v-for="t in found" :key="t.key" v-slot="{ active }" :value="t" as="template">
              <li :class="['flex items-baseline justify-between gap-4 px-3 py-1.5', active ? 'bg-accent-soft' : '']">
                <span class="font-medium">{{ t.name }}</span><span class="truncate text-xs text-quiet">{{
                  t.where
                }}</span>
              </li>
            </ComboboxOption>
            <li v-if="found.length === 0" class="px-3 py-2 text-sm text-quiet">Nothing by that name.</li>
          </ComboboxOptions>
        </Combobox>
      </DialogPanel>
    </div>
  </Dialog>
</template>
