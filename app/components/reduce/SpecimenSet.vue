<script setup lang="ts">
import {
  setOf,
  spreadOf,
  trendOf,
  unlikeZeros,
  type AnyFamily,
  type Figure,
  type Kind,
  type Result,
  type Series,
} from '@hypomet/core'
import type { LimitRow, Specimen } from '~/types/api'

/**
 * Specimens of the article beside one another: values, spread and what may be claimed; curves over one another; a
 * result over wear or speed.
 */
const props = defineProps<{
  family: AnyFamily
  /** Results that the article has of its own, by name. */
  ownResults: readonly string[]
  testId: number
  slug: string
  article: string
  limits: LimitRow[]
  system: 'metric' | 'imperial'
  renewed: string
}>()
const reductions = useReductionStore()
const units = useUnits(() => props.system)
const specimens = shallowRef<Specimen[]>([])
onMounted(() =>
  watch(
    () => [props.testId, props.renewed],
    async () => {
      specimens.value = await reductions.specimens(props.testId)
    },
    { immediate: true },
  ),
)

const has = (list: Specimen[], key: string) => list.some(s => s.results[key]?.value != null)
const own = computed(() => specimens.value.filter(s => s.id === props.testId))
/** What this test has comes first. */
const keys = computed(() =>
  [...(props.family.set?.results ?? []), ...props.ownResults]
    .filter(key => has(specimens.value, key))
    .sort((a, b) => Number(has(own.value, b)) - Number(has(own.value, a))),
)
const chosen = ref<string | null>(null)
const key = computed(() => (chosen.value && keys.value.includes(chosen.value) ? chosen.value : (keys.value[0] ?? '')))
const outline = computed(() => props.family.results[key.value])
const kind = computed<Kind>(() => outline.value?.kind ?? 'ratio')
const limit = computed(() => props.limits.find(l => l.quantity === key.value) ?? null)
const wall = computed(() =>
  limit.value ? { value: limit.value.value, comparator: limit.value.comparator } : undefined,
)
const side = computed(() => wall.value?.comparator ?? outline.value?.limited)
const set = computed(() =>
  setOf(
    specimens.value.map(s => ({ ...s, result: s.results[key.value] })),
    props.testId,
  ),
)
const counted = computed(() => set.value.counted)
/** Tests of one reason beside one another. */
const leftOut = computed(() => {
  const reasons = [...new Set(set.value.leftOut.map(([, why]) => why))]
  return reasons.map(why => {
    const titles = set.value.leftOut.filter(([, w]) => w === why).map(([s]) => s.title)
    return `${titles.join(', ')} (${why})`
  })
})
const valued = (list: Specimen[]) =>
  list.map(s => ({ value: s.results[key.value]!.value!, bound: s.results[key.value]!.bound }))
const revisions = computed(() => [...new Set(specimens.value.map(s => s.revision))])

const spreads = computed(() =>
  revisions.value.flatMap(label => {
    const list = counted.value.filter(s => s.revision === label)
    const spread = spreadOf(valued(list), { comparator: side.value, ...(wall.value ? { wall: wall.value } : {}) })
    if (!spread) return []
    const show = (v: number | null, digits = 4) => (v === null ? '–' : units.show(v, kind.value, { digits }))
    const far = spread.outliers.map(i => list[i]!.title)
    return [
      {
        label,
        n: spread.n,
        asConstant:
          spread.sd === null || spread.mean === null
            ? null
            : asConstant(props.slug, units, {
                mean: spread.mean,
                sd: spread.sd,
                n: spread.n,
                kind: kind.value,
                source: `${props.article} ${label}: ${outline.value?.label.toLowerCase()} of ${spread.n} specimens`,
              }),
        mean: show(spread.mean),
        sd: spread.sd === null ? '–' : units.show(spread.sd, kind.value, { digits: 2, difference: true }),
        cv: spread.cv === null ? '–' : `${(100 * spread.cv).toFixed(1)} %`,
        k: spread.k === null ? '–' : spread.k.toFixed(3),
        claim: show(spread.claim),
        words: [
          spread.claim === null
            ? spread.n < 2
              ? 'One specimen is not a basis.'
              : ''
            : spread.n < 3
              ? 'Two specimens are no basis to put in a constant’s place.'
              : '',
          !limit.value || spread.claim === null
            ? ''
            : spread.more === 0
              ? `Meets “${limit.value.name}” as a basis.`
              : spread.more === null
                ? `“${limit.value.name}” is not met with this mean and spread, however many more.`
                : `${spread.more} more of the same would meet “${limit.value.name}” as a basis.`,
          far.length > 0 ? `Far from the others: ${far.join(', ')}; named, not left out.` : '',
        ]
          .filter(Boolean)
          .join(' '),
      },
    ]
  }),
)

const measure = computed(() => props.family.set?.measure)
/** Of a line over wear or speed the set-up is part of what is varied. */
const measured = computed(
  () =>
    setOf(
      specimens.value.filter(s => s.measure !== null).map(s => ({ ...s, result: s.results[key.value], setUp: '' })),
      props.testId,
    ).counted,
)
/** What is drawn: bounds too, though no line goes through them. */
const drawn = computed(() =>
  specimens.value.filter(s => s.measure !== null && !s.invalid && s.results[key.value]?.value != null),
)
const trend = computed(() =>
  measure.value && measured.value.length >= 3
    ? trendOf(
        measured.value.map(s => s.measure!),
        measured.value.map(s => s.results[key.value]!.value!),
        wall.value,
      )
    : null,
)
const trendFigure = computed<Figure | null>(() => {
  if (!trend.value || !measure.value) return null
  const { x, line, lower, upper } = trend.value.curve
  const isBound = (s: Specimen) => s.results[key.value]!.bound === 'atLeast'
  const points = revisions.value.flatMap((label, of) =>
    [false, true].map((bounds): Series => {
      const list = drawn.value.filter(s => s.revision === label && isBound(s) === bounds)
      return {
        name: bounds ? `Revision ${label}, at least` : `Revision ${label}`,
        style: 'points',
        of: bounds ? revisions.value.length + of : of,
        x: list.map(s => s.measure),
        y: list.map(s => s.results[key.value]!.value),
      }
    }),
  )
  return {
    x: { label: measure.value.label, kind: measure.value.kind },
    y: { label: outline.value!.label, kind: kind.value },
    series: [
      { name: 'Line', style: 'fit', x, y: line },
      { name: 'Next specimen, 95 %, from', style: 'predicted', x, y: lower },
      { name: 'to', style: 'predicted', x, y: upper },
      ...points.filter(p => p.x.length > 0),
    ],
    lines: [
      ...(wall.value ? [{ axis: 'y' as const, value: wall.value.value, label: limit.value!.name }] : []),
      ...(trend.value.meets === null
        ? []
        : [{ axis: 'x' as const, value: trend.value.meets, label: measure.value.past ?? 'limit met' }]),
    ],
  }
})
const retirement = computed(() => {
  if (!trend.value || !measure.value) return ''
  if (!limit.value) return 'No limit is set on this result: the band alone is shown.'
  const name = measure.value.label.toLowerCase()
  if (trend.value.meets === null)
    return (
      `Within twice the range tested the next specimen keeps “${limit.value.name}”, or never did: no ${name} ` +
      `can be named.`
    )
  const past = measure.value.past ? `: ${measure.value.past} from there on` : ''
  return (
    `From a ${name} of ${units.show(trend.value.meets, measure.value.kind, { digits: 2 })} on the next specimen ` +
    `may miss “${limit.value.name}” (one-sided 97.5 %, ${trend.value.n} specimens)${past}.`
  )
})

const zeros = computed(() =>
  unlikeZeros(specimens.value.map(s => ({ name: `${s.revision} · ${s.title}`, zero: s.zero }))),
)
const overlay = computed<Figure | null>(() => {
  const curved = specimens.value.filter(s => s.curve && !s.curve.field && s.curve.series.length > 0)
  const first = curved[0]?.curve
  if (!first || curved.length < 2) return null
  return {
    x: first.x,
    y: first.y,
    lines: [],
    series: curved
      .filter(s => s.curve!.name === first.name)
      .map((s, i) => ({
        ...s.curve!.series[0]!,
        name: `${s.revision} · ${s.title}`,
        of: revisions.value.length > 1 ? revisions.value.indexOf(s.revision) : i,
      })),
  }
})
/** Maps beside one another, when this test is one. */
const maps = computed(() => (own.value.some(s => s.curve?.field) ? specimens.value.filter(s => s.curve?.field) : []))
const scale = computed((): [number, number] => {
  const all = maps.value.flatMap(s => s.curve!.field!.value)
  return [Math.min(...all), Math.max(...all)]
})
const columns = computed(() =>
  [...new Set([...keys.value.slice(0, 4), key.value])].map(k => ({
    key: k,
    label: props.family.results[k]?.label ?? k,
    kind: props.family.results[k]?.kind ?? ('ratio' as Kind),
  })),
)
/** Without its uncertainty, which stands with the test’s own results. */
const text = (r: Result | undefined, k: Kind) => (r ? units.result({ value: r.value, bound: r.bound }, k) : '–')
</script>

<template>
  <section v-if="specimens.length > 1 && keys.length > 0" class="panel space-y-3" data-set>
    <div class="flex flex-wrap items-center justify-between gap-2">
      <h2>{{ specimens.length }} specimens beside one another</h2>
      <NuxtLink
        class="ml-auto text-sm"
        :to="`/compare?tests=${specimens
          .slice(-12)
          .map(s => s.id)
          .join(',')}`"
        >Compare point by point</NuxtLink
      >
      <label class="flex items-center gap-1.5 text-sm text-quiet"
        >Compared by<select
          class="field w-auto py-0.5"
          :value="key"
          @change="chosen = ($event.target as HTMLSelectElement).value"
        >
          <option v-for="k in keys" :key="k" :value="k">{{ family.results[k]?.label ?? k }}</option>
        </select></label
      >
    </div>
    <div class="grid gap-3 2xl:grid-cols-2">
      <div class="max-h-80 min-w-0 overflow-auto" tabindex="0" role="region" aria-label="Specimens">
        <table class="data">
          <thead>
            <tr>
              <th>Specimen</th>
              <th v-if="measure" class="number">{{ measure.label }}</th>
              <th v-for="c in columns" :key="c.key" class="number">{{ c.label }}</th>
              <th>Failure mode and place</th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="s in specimens"
              :key="s.id"
              :class="s.id === testId ? 'bg-accent-soft' : s.invalid ? 'opacity-60' : ''"
            >
              <td>
                <NuxtLink :to="`/tests/${s.id}/reduce`">{{ s.revision }} · {{ s.title }}</NuxtLink>
              </td>
              <td v-if="measure" class="number">
                {{ s.measure === null ? '–' : units.show(s.measure, measure.kind, { digits: 2 }) }}
              </td>
              <td v-for="c in columns" :key="c.key" :class="['number', c.key === key ? 'font-semibold' : '']">
                {{ text(s.results[c.key], c.kind) }}
              </td>
              <td class="text-xs text-quiet">
                {{ [s.place, s.mode].filter(Boolean).join(', ') || (s.judged ? 'no failure' : 'not judged')
                }}{{ s.invalid ? ', shows nothing' : '' }}
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="min-w-0 overflow-x-auto">
        <table v-if="spreads.length > 0" class="data" data-spread>
          <thead>
            <tr>
              <th>Revision</th>
              <th class="number">n</th>
              <th class="number">Mean</th>
              <th class="number">s</th>
              <th class="number">s/mean</th>
              <th class="number">k</th>
              <th class="number">Basis value (90 % {{ side === 'atMost' ? 'below' : 'exceed' }}, 95 % confidence)</th>
              <th><span class="sr-only">Use</span></th>
            </tr>
          </thead>
          <tbody>
            <template v-for="s in spreads" :key="s.label"
              ><tr>
                <td>{{ s.label }}</td>
                <td class="number">{{ s.n }}</td>
                <td class="number">{{ s.mean }}</td>
                <td class="number">{{ s.sd }}</td>
                <td class="number">{{ s.cv }}</td>
                <td class="number">{{ s.k }}</td>
                <td class="number font-semibold">{{ s.claim }}</td>
                <td>
                  <NuxtLink
                    v-if="s.asConstant"
                    :to="s.asConstant"
                    class="whitespace-nowrap text-xs"
                    data-hint="Put the mean in a constant’s place, where you choose which"
                    >as a constant</NuxtLink
                  >
                </td>
              </tr>
              <tr v-if="s.words">
                <td colspan="8" class="text-xs text-quiet">{{ s.words }}</td>
              </tr></template
            >
          </tbody>
        </table>
        <p v-if="zeros" class="mt-1 text-sm text-open" data-zeros>{{ zeros }}</p>
        <p v-if="leftOut.length > 0" class="mt-1 text-xs text-quiet" data-left-out>
          Not counted: {{ leftOut.join('; ') }}.
        </p>
      </div>
    </div>
    <div v-if="maps.length > 1" class="grid grid-cols-2 gap-3">
      <div v-for="s in maps" :key="s.id" class="min-w-0">
        <p class="text-sm">{{ s.revision }} · {{ s.title }}</p>
        <FieldMap
          :figure="{ x: s.curve!.x, y: s.curve!.y, series: [], lines: [], field: s.curve!.field! }"
          :prefer="units.prefer.value"
          :scale="scale"
          compact
        />
      </div>
    </div>
    <div class="grid gap-3 xl:grid-cols-2">
      <div v-if="trendFigure" class="min-w-0">
        <p class="mb-1 text-sm" data-retirement>{{ retirement }}</p>
        <FigureChart :figure="trendFigure" :prefer="units.prefer.value" :name="`trend-${key}`" height="260px" />
      </div>
      <div v-if="overlay" class="min-w-0">
        <p class="mb-1 text-sm text-quiet">Curves as kept, over one another.</p>
        <FigureChart :figure="overlay" :prefer="units.prefer.value" name="overlay" height="260px" />
      </div>
    </div>
  </section>
</template>
