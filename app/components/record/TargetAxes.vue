<script setup lang="ts">
import type { AxesSaid } from '@hypomet/core'

/** How the article lies in the axes of its file, and whether it is looked at as a plane or as a shell unrolled. */
const axes = defineModel<AxesSaid>('axes', { required: true })
const isShell = defineModel<boolean>('shell', { required: true })
const { names } = defineProps<{ names: readonly string[] }>()
const by = computed({
  get: () => axes.value.by,
  set: way => {
    const [from = '', , across = ''] = names
    axes.value =
      way === 'file'
        ? { by: 'file', along: 'x', out: 'z' }
        : way === 'spread'
          ? { by: 'spread' }
          : { by: 'places', from, to: names.at(-1) ?? '', across }
  },
})
const FILE = ['x', 'y', 'z'] as const
/** Out of the plane is an axis that does not go along. */
function turn(along: 'x' | 'y' | 'z', out: 'x' | 'y' | 'z', kept: 'along' | 'out'): void {
  const other = FILE.find(a => a !== (kept === 'along' ? along : out))!
  const next =
    kept === 'along' ? { along, out: out === along ? other : out } : { along: along === out ? other : along, out }
  axes.value = { by: 'file', ...next }
}
const PLACES = [
  { key: 'from', label: 'Along from' },
  { key: 'to', label: 'to' },
  { key: 'across', label: 'In its plane' },
] as const
</script>

<template>
  <section class="panel space-y-2 text-sm">
    <h2>Axes of the article</h2>
    <select v-model="by" class="field" aria-label="Axes by">
      <option value="file">those of the file</option>
      <option value="spread">by how its targets spread</option>
      <option value="places">by three of its targets</option>
    </select>
    <div v-if="axes.by === 'file'" class="grid grid-cols-2 gap-2">
      <label
        ><span class="label">Along</span
        ><select
          class="field"
          :value="axes.along"
          @change="turn(($event.target as HTMLSelectElement).value as 'x', axes.out, 'along')"
        >
          <option v-for="a in FILE" :key="a">{{ a }}</option>
        </select></label
      >
      <label
        ><span class="label">Out of plane</span
        ><select
          class="field"
          :value="axes.out"
          @change="turn(axes.along, ($event.target as HTMLSelectElement).value as 'x', 'out')"
        >
          <option v-for="a in FILE" :key="a">{{ a }}</option>
        </select></label
      >
    </div>
    <div v-else-if="axes.by === 'places'" class="grid grid-cols-3 gap-2">
      <label v-for="p in PLACES" :key="p.key"
        ><span class="label">{{ p.label }}</span
        ><select
          class="field"
          :value="axes[p.key]"
          @change="axes = { ...axes, [p.key]: ($event.target as HTMLSelectElement).value } as AxesSaid"
        >
          <option v-for="n in names" :key="n">{{ n }}</option>
        </select></label
      >
    </div>
    <label class="flex items-center gap-2"
      ><input v-model="isShell" type="checkbox" />A shell about the axis along it, unrolled</label
    >
  </section>
</template>
