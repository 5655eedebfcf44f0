<script setup lang="ts">
import { lessonRegister } from '@hypomet/core'

const id = Number(useRoute().params['id'])
const book = await useRegister('lesson')
const row = computed(() => book.rows.value.find(r => r.id === id) ?? null)
if (!row.value) throw createError({ statusCode: 404, statusMessage: 'There is no such lesson.' })
useTrail().value = [{ name: 'Lessons', to: '/lessons' }, { name: book.nameOf(row.value) }]
useHead({ title: () => `${row.value ? book.nameOf(row.value) : 'Lesson'} · Hypomet` })
const api = useApi()
const undo = useUndoStore()
interface Fired {
  id: number
  testId: number
  test: string
  article: string
  revision: string
  reasons: string[]
  answer: 'applied' | 'does-not-apply' | 'risk-accepted' | null
  reason: string
  by: string
  answeredAt: string | null
  cause: string | null
}
const { data: fired, refresh } = await useAsyncData(`fired-${id}`, () => api.get(`/api/lessons/${id}/firings`))
watch(
  () => undo.changes,
  () => refresh(),
)
const words = { applied: 'Applied', 'does-not-apply': 'Did not apply', 'risk-accepted': 'Risk accepted' }
/** What became of the test that took or left the advice. */
function outcome(f: Fired): string {
  if (f.cause === null || f.answer === null) return ''
  const clean = f.cause === 'none' || f.cause === 'article'
  if (f.answer === 'applied') return clean ? 'The test ended as it should.' : `The test still ended by the ${f.cause}.`
  return clean ? 'It went well without.' : `Left aside, and the test ended by the ${f.cause}.`
}
const count = (answer: Fired['answer']) => fired.value?.filter(f => f.answer === answer).length ?? 0
</script>

<template>
  <main v-if="row" class="mx-auto grid w-full max-w-[1400px] flex-1 grid-cols-[1fr_28rem] items-start gap-3 p-4">
    <RowPanel :book="book" :row="row" back="/lessons" />
    <div class="space-y-3">
      <section class="panel">
        <h2 class="mb-1">Where it fired</h2>
        <p v-if="fired?.length" class="mb-1 text-sm">
          {{ fired.length }} plans: applied in {{ count('applied') }}, did not apply in {{ count('does-not-apply') }},
          risk accepted in {{ count('risk-accepted')
          }}<span v-if="count(null) > 0" class="font-semibold text-open">, not answered in {{ count(null) }}</span
          >.
        </p>
        <ul v-if="fired?.length" class="divide-y divide-line text-sm">
          <li v-for="f in fired" :key="f.id" class="py-1.5">
            <NuxtLink :to="`/tests/${f.testId}/ready`" class="font-medium"
              >{{ f.article }} {{ f.revision }}: {{ f.test }}</NuxtLink
            >
            <p class="text-xs text-quiet">by {{ f.reasons.join(', ') }}</p>
            <p :class="f.answer === null ? 'font-semibold text-open' : f.answer === 'risk-accepted' ? 'text-open' : ''">
              {{ f.answer === null ? 'Wants an answer' : words[f.answer]
              }}<template v-if="f.reason">: {{ f.reason }}</template
              ><span v-if="f.by" class="text-xs text-quiet">
                · {{ f.by }}, {{ f.answeredAt ? day(f.answeredAt) : '' }}</span
              >
            </p>
            <p v-if="outcome(f)" class="text-xs">{{ outcome(f) }}</p>
          </li>
        </ul>
        <p v-else class="text-sm text-quiet">On no plan yet. It is held against every plan that has not been run.</p>
      </section>
      <section class="panel"><AttachmentStrip :id="row.id" entity="lesson" title="Photos and papers" /></section>
      <section class="panel">
        <HistoryList :id="row.id" :register="lessonRegister" :version="row.version" :context="book.context.value" />
      </section>
    </div>
  </main>
</template>
