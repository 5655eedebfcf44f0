<script setup lang="ts">
import { ArchiveRestore, ShieldCheck, Square } from '@lucide/vue'

/** The audit trail, originals, samples, results and signatures: held against what was written down; and backups. */
useTrail().value = [{ name: 'Records and proofs' }]
useHead({ title: 'Records and proofs · Hypomet' })
const api = useApi()
const store = useProofsStore()
const { data: state, refresh } = await useAsyncData('proofs', () => api.get('/api/proofs'))
const { busy, problem, run } = useAction()
const { doing, follow, stop } = useJob()
const recompute = ref(true)
const verify = () =>
  run(async () => {
    const { jobId } = await store.verify({ slug: null, recompute: recompute.value })
    await follow(jobId)
    await refresh()
  })
const backup = () =>
  run(async () => {
    await store.backup()
    await refresh()
  })
const when = (iso: string) => new Date(iso).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
const number = (n: number) => n.toLocaleString('en')
const verdict = computed(() => {
  const n = state.value?.verified?.findings.length ?? 0
  if (n === 0) return 'Everything was as it was written down.'
  return `${number(n)} ${n === 1 ? 'thing is' : 'things are'} not as written down.`
})
const looked = computed(() => {
  const v = state.value?.verified
  if (!v) return ''
  const digits = v.recomputed > 0 ? `, ${number(v.recomputed)} of them worked out anew` : ''
  return (
    `${number(v.entries)} entries, ${number(v.originals)} originals, ${number(v.chunks)} pieces of samples, ` +
    `${number(v.reductions)} results${digits}, ${number(v.signatures)} signatures`
  )
})
</script>

<template>
  <main v-if="state" class="mx-auto w-full max-w-5xl flex-1 space-y-3 p-4">
    <h1>Records and proofs</h1>
    <p v-if="state.isDamaged" class="panel text-sm text-fail" role="alert">
      A page of the database cannot be read. What is whole is shown; nothing is saved until the newest backup has been
      restored.
    </p>
    <section class="panel space-y-3">
      <div class="flex flex-wrap items-center justify-between gap-3">
        <h2>Is everything as it was written down?</h2>
        <div class="flex items-center gap-3">
          <p v-if="doing" class="flex items-center gap-2 text-sm text-quiet" role="status">
            <progress :value="doing.share" class="h-2 w-28" :aria-label="doing.text" />{{ doing.text }}
          </p>
          <label class="flex items-center gap-2 text-sm"
            ><input v-model="recompute" type="checkbox" />Work results out anew, digit by digit</label
          >
          <button v-if="doing" type="button" class="button" @click="stop">
            <Square class="size-3.5" aria-hidden="true" />Stop
          </button>
          <button type="button" class="button-main" :disabled="busy" @click="verify">
            <ShieldCheck class="size-4" aria-hidden="true" />Verify
          </button>
        </div>
      </div>
      <ProblemNote :problem="problem" />
      <template v-if="state.verified">
        <p data-verified :class="state.verified.findings.length > 0 ? 'text-fail' : 'text-pass'" class="font-medium">
          {{ verdict }}
        </p>
        <p class="text-sm text-quiet">{{ when(state.verified.at) }}, by {{ state.verified.by }}: {{ looked }}.</p>
        <table v-if="state.verified.findings.length > 0" class="data">
          <thead>
            <tr>
              <th>What</th>
              <th>Finding</th>
              <th>Test</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(f, i) in state.verified.findings" :key="i">
              <td class="whitespace-nowrap font-medium">{{ f.kind }}</td>
              <td>{{ f.message }}</td>
              <td>
                <NuxtLink v-if="f.testId" :to="`/tests/${f.testId}/reduce`">open</NuxtLink>
              </td>
            </tr>
          </tbody>
        </table>
      </template>
      <p v-else class="text-sm text-quiet">Nobody has verified yet. It changes nothing and may be done at any time.</p>
    </section>
    <div class="grid grid-cols-2 items-start gap-3">
      <section class="panel space-y-2 text-sm">
        <h2>Audit trail</h2>
        <p v-if="state.trouble" class="text-fail">{{ state.trouble }}</p>
        <dl class="grid grid-cols-[auto_minmax(0,1fr)] gap-x-3 gap-y-1">
          <dt class="text-quiet">Entries</dt>
          <dd class="number">{{ number(state.entries) }}</dd>
          <template v-if="state.head">
            <dt class="whitespace-nowrap text-quiet">Last head</dt>
            <dd>
              {{ when(state.head.at) }}, {{ number(state.head.count) }} entries<span
                class="block truncate font-mono text-xs text-quiet"
                >{{ state.head.hash }}</span
              >
            </dd>
          </template>
        </dl>
        <p class="text-xs text-quiet">
          Each entry is chained to the one before. Heads are signed with a key outside the database, so that a tail that
          is cut or written anew shows.
        </p>
        <h2 class="pt-2">Files that belong together</h2>
        <ul class="space-y-0.5 font-mono text-xs">
          <li v-for="f in state.files" :key="f.name" class="flex justify-between gap-3">
            <span class="truncate">{{ f.name }}</span><span class="number whitespace-nowrap">{{
              bytesText(f.size)
            }}</span>
          </li>
          <li class="truncate">{{ state.originals }}/</li>
        </ul>
        <template v-if="state.missing.length > 0">
          <h2 class="pt-2 text-fail">Originals that are missing</h2>
          <ul class="space-y-0.5">
            <li v-for="m in state.missing" :key="m.sha256 + m.name">
              <NuxtLink v-if="m.testId" :to="`/tests/${m.testId}/reduce`">{{ m.name }}</NuxtLink><template v-else>{{
                m.name
              }}</template>
              <span class="font-mono text-xs text-quiet"> {{ m.sha256.slice(0, 12) }}…</span>
            </li>
          </ul>
        </template>
      </section>
      <section class="panel space-y-2 text-sm">
        <div class="flex items-center justify-between gap-3">
          <h2>Backups</h2>
          <span class="flex gap-2">
            <a href="/api/proofs/backup" class="button text-xs" download
              ><ArchiveRestore class="size-3.5" aria-hidden="true" />Save one here</a
            >
            <button v-if="state.backups" type="button" class="button text-xs" :disabled="busy" @click="backup">
              Make one now
            </button>
          </span>
        </div>
        <template v-if="state.backups">
          <p v-if="state.backups.problem" class="text-fail">The last one failed: {{ state.backups.problem }}</p>
          <p v-if="state.backups.isLate" class="text-open">
            The newest is older than it may be: one is made every {{ state.backups.hours }} h.
          </p>
          <p class="text-xs text-quiet">
            Every {{ state.backups.hours }} h into {{ state.backups.folder }}; the newest {{ state.backups.keep }} stay.
          </p>
          <ul class="space-y-0.5">
            <li v-for="b in state.backups.made" :key="b.name" class="flex justify-between gap-3">
              <span>{{ when(b.at) }}</span><span class="number">{{ bytesText(b.size) }}</span>
            </li>
          </ul>
          <p v-if="state.backups.made.length === 0" class="text-quiet">None has been made yet.</p>
        </template>
        <p v-else class="text-quiet">
          None is made by itself: HYPOMET_BACKUPS names a folder for them at the start, best on another disk.
        </p>
        <p class="text-xs text-quiet">
          A backup is one file with the database, its originals and what they are.
          <code class="font-mono">npx hypomet restore file.tar folder</code> holds every part against its digest first.
        </p>
      </section>
    </div>
  </main>
</template>
