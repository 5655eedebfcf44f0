<script setup lang="ts">
import { Play, Radio } from '@lucide/vue'
import { channelsToSend, guessedMapping, mappingProblem, type MappedColumn } from '~/composables/import/importMapping'
import type { FilePreview } from '~/types/api'

type StreamSetUp = Extract<BodyAt<'POST', `/api/tests/${number}/runs`>, { source: 'stream' }>['setUp']

/** Lines of numbers over TCP, or from a file that grows: listened to first, so that its columns can be mapped. */
defineProps<{ busy: boolean }>()
const emit = defineEmits<{ begin: [setUp: StreamSetUp] }>()
const { page } = useTest()
const runs = useRunStore()
const { busy: looking, problem, run } = useAction()
const kind = ref<'tcp' | 'file'>('tcp')
const address = ref('127.0.0.1:5025')
const path = ref('')
const preview = shallowRef<FilePreview['preview'] | null>(null)
const mapping = ref<Record<string, MappedColumn>>({})
const where = computed((): StreamSetUp['where'] => {
  if (kind.value === 'file') return { kind: 'file', path: path.value.trim() }
  const at = address.value.lastIndexOf(':')
  return {
    kind: 'tcp',
    host: (at < 0 ? address.value : address.value.slice(0, at)).trim(),
    port: at < 0 ? NaN : Number(address.value.slice(at + 1)),
  }
})
watch([kind, address, path], () => {
  preview.value = null
})
const listen = () =>
  run(async () => {
    const found = await runs.listen(page.value.test.id, {
      where: where.value,
    })
    mapping.value = guessedMapping(found.preview, [])
    preview.value = found.preview
  })
/** Lines without a clock of their own are stamped as they come. */
const wrong = computed(() => mappingProblem(mapping.value, 1))
const begin = () =>
  emit('begin', {
    where: where.value,
    channels: channelsToSend(mapping.value),
    delimiter: preview.value!.delimiter ?? ',',
    numbers: preview.value!.numbers?.style,
    names: preview.value!.columns.map(c => c.name),
  })
</script>

<template>
  <div class="space-y-3">
    <p class="text-sm text-quiet">
      A logger that sends lines of numbers over TCP, or writes them to a file on this machine. The ladder is followed by
      the load that is read; people put it on. To try it: <code>node scripts/send.mjs demo/data/hanger-arm-b.csv</code>
    </p>
    <form class="flex flex-wrap items-end gap-3" @submit.prevent="listen">
      <label
        ><span class="label">From</span
        ><select v-model="kind" class="field">
          <option value="tcp">TCP, host and port</option>
          <option value="file">a file that grows</option>
        </select></label
      >
      <label v-if="kind === 'tcp'"
        ><span class="label">Host and port</span><input v-model="address" class="field w-52" spellcheck="false"
      /></label>
      <label v-else class="flex-1"
        ><span class="label">Path on this machine</span><input v-model="path" class="field" spellcheck="false"
      /></label>
      <button class="button" :disabled="looking">
        <Radio class="size-4" aria-hidden="true" />{{ looking ? 'Listening …' : 'Listen' }}
      </button>
    </form>
    <ProblemNote :problem="problem" />
    <template v-if="preview">
      <p class="text-sm">{{ preview.about }}</p>
      <MappingTable :preview="preview" :mapping="mapping" />
      <p v-if="mapping['t']?.column === ''" class="text-sm text-quiet">Lines are stamped as they come in.</p>
      <p v-if="wrong" class="text-sm text-open">{{ wrong }}</p>
      <button type="button" class="button-main" :disabled="busy || wrong !== ''" @click="begin">
        <Play class="size-4" aria-hidden="true" />Start the ladder
      </button>
    </template>
  </div>
</template>
