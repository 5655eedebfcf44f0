<script setup lang="ts">
import { columnFormatter, families, planSchemaOf, type Kind } from '@hypomet/core'

/** Every held rung with what follows from its channels, and their means, as they come in. */
const props = defineProps<{ points: { rung: number; means: Record<string, number> }[] }>()
const { page, units } = useTest()
const view = computed(() => page.value.view!)
const isUp = (target: number) => target > 0
const rows = computed(() =>
  props.points.filter(p => isUp(view.value.rungs[p.rung]?.target ?? 0)).sort((a, b) => a.rung - b.rung),
)
const pointOf = computed(() => families[page.value.test.family]?.stages.pointOf)
/** As its schema reads it: SI. */
const plan = computed(() => planSchemaOf(page.value.test.family).safeParse(page.value.test.plan ?? {}).data ?? null)
const columns = computed(() => {
  const read = view.value.channels
    .filter(c => c.role !== view.value.commanded.role && rows.value.some(p => p.means[c.role] !== undefined))
    .map(c => ({ label: c.label, kind: c.kind, values: rows.value.map(p => p.means[c.role] ?? null) }))
  const further = rows.value.map(p => (plan.value && pointOf.value ? pointOf.value(p.means, plan.value) : []))
  const made = (further[0] ?? []).map(({ label, kind }) => ({
    label,
    kind: kind as Kind,
    values: further.map(f => f.find(v => v.label === label)?.value ?? null),
  }))
  return [...made, ...read].map(c => ({
    ...c,
    show: columnFormatter(c.values, c.kind, { prefer: units.prefer.value }),
  }))
})
const target = computed(() =>
  columnFormatter(
    rows.value.map(p => view.value.rungs[p.rung]!.target),
    view.value.commanded.kind,
    { prefer: units.prefer.value },
  ),
)
</script>

<template>
  <div class="min-h-0 flex-1 overflow-auto" tabindex="0" aria-label="Held rungs">
    <table v-if="rows.length > 0" class="data" data-rungs>
      <thead>
        <tr>
          <th class="number">Rung</th>
          <th v-for="c in columns" :key="c.label" class="number">{{ c.label }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(p, i) in rows" :key="p.rung">
          <td class="number font-semibold">{{ target(view.rungs[p.rung]!.target) }}</td>
          <td v-for="c in columns" :key="c.label" class="number">{{ c.show(c.values[i]!) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else class="text-sm text-quiet">A rung stands here two seconds after it is held.</p>
  </div>
</template>
