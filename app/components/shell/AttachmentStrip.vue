<script setup lang="ts">
import { Download, FileText, Paperclip, X } from '@lucide/vue'
import { HypometError } from '@hypomet/core'

/** Photos, certificates and papers of a thing, kept by their hash. */
const props = defineProps<{
  entity: string
  id: number
  title?: string
  /** Only files with this tag, and what is added gets it. */ tag?: string
}>()
const emit = defineEmits<{ changed: [] }>()
interface Attached {
  id: number
  tag: string
  name: string
  mime: string
  size: number
  sha256: string
  by: string
  createdAt: string
  hasThumbnail: boolean
}
const MOST = 25 * 1024 ** 2
const attachments = useAttachmentsStore()
const undo = useUndoStore()
const { busy, problem, run } = useAction()
const files = ref<Attached[]>([])
const share = ref(0)
const zone = useTemplateRef<HTMLElement>('zone')
const refresh = async () => {
  files.value = (await attachments.of(props.entity, props.id)).filter(
    f => props.tag === undefined || f.tag === props.tag,
  )
}
onMounted(refresh)
watch(() => [props.id, undo.changes], refresh)

const add = (chosen: File[]) =>
  run(async () => {
    for (const file of chosen) {
      if (file.size > MOST)
        throw new HypometError(
          'too-large',
          `“${file.name}” has ${(file.size / 1024 ** 2).toFixed(1)} MB; files of up to 25 MB are taken.`,
        )
      const { entity, id, tag } = props
      const made = await attachments.attach({ entity, id, tag }, file, s => (share.value = s))
      undo.did(made.step, `“${file.name}” attached`)
    }
    await refresh()
    emit('changed')
  })
const remove = (f: Attached) =>
  run(async () => {
    const { step } = await attachments.remove(f.id)
    undo.did(step, `“${f.name}” removed`)
    emit('changed')
  })
const size = (bytes: number) =>
  bytes >= 1024 ** 2 ? `${(bytes / 1024 ** 2).toFixed(1)} MB` : `${Math.max(1, Math.round(bytes / 1024))} kB`
</script>

<template>
  <section ref="zone">
    <div class="mb-1 flex items-center justify-between">
      <h2>{{ title ?? 'Files' }}</h2>
      <FilePicker
        class="button text-xs"
        label="Attach a file"
        accept="image/*,application/pdf,*/*"
        multiple
        :zone="zone"
        @files="add"
        ><Paperclip class="size-3.5" aria-hidden="true" />{{
          busy ? `${Math.round(100 * share)} %` : 'Attach or drop'
        }}</FilePicker
      >
    </div>
    <ul v-if="files.length > 0" class="flex flex-wrap gap-2">
      <li v-for="f in files" :key="f.id" class="group relative w-28 rounded border border-line bg-ground p-1 text-2xs">
        <a
          :href="`/api/attachments/${f.id}/file`"
          target="_blank"
          rel="noopener"
          class="block no-underline"
          :data-hint="`${f.name}, ${size(f.size)}, ${f.by}, SHA-256 ${f.sha256.slice(0, 12)}…`"
        >
          <img
            v-if="f.hasThumbnail"
            :src="`/api/attachments/${f.id}/thumbnail`"
            alt=""
            class="h-20 w-full object-contain"
          /><FileText v-else class="mx-auto h-20 w-8 text-quiet" aria-hidden="true" />
          <span class="block truncate">{{ f.name }}</span><span class="text-quiet">{{ size(f.size) }}</span>
        </a>
        <a
          class="absolute left-0.5 top-0.5 rounded bg-panel p-0.5"
          :href="`/api/attachments/${f.id}/file?as=original`"
          download
          :aria-label="`Save ${f.name} as it came`"
          data-hint="Save as it came"
          ><Download class="size-3" aria-hidden="true"
        /></a>
        <button
          type="button"
          class="absolute right-0.5 top-0.5 rounded bg-panel p-0.5"
          :aria-label="`Remove ${f.name}`"
          @click="remove(f)"
        >
          <X class="size-3" aria-hidden="true" />
        </button>
      </li>
    </ul>
    <p v-else class="text-xs text-quiet">None yet. Photos, certificates, PDF: up to 25 MB each.</p>
    <ProblemNote class="mt-1" :problem="problem" />
  </section>
</template>
