import { expectedPlaces, families, outlineOf, ownOf, withOwnResults, type Series } from '@hypomet/core'

/** The loaded test with its kind and its campaign's units, for the stage pages. */
export function useTest() {
  const store = useTestStore()
  const page = computed(() => store.page!)
  /** Results that the article has of its own, and those of this test alone, by what its results say they are. */
  const own = computed(() => ownOf(page.value.article.own, page.value.reductions[0]))
  /** Null for kinds of test that can be planned but not yet reduced here. */
  const known = computed(() => withOwnResults(families[page.value.test.family] ?? null, own.value))
  const family = computed(() => known.value!)
  const outline = computed(() => withOwnResults(outlineOf(page.value.test.family), own.value)!)
  const units = useUnits(() => page.value.campaign.system)
  const resultKind = (key: string) => outline.value.results[key]?.kind ?? 'ratio'
  const resultLabel = (key: string) => outline.value.results[key]?.label ?? key
  /** Places where others expect it to fail, each once. */
  const places = computed(() => expectedPlaces(page.value.predictions))
  /** Every place that has a name here: of the article, of gauges, of predictions; each once. */
  const placeNames = computed(() => {
    const channels = (page.value.test.plan?.['channels'] ?? []) as { place?: string }[]
    const all = [
      ...page.value.article.places,
      ...channels.map(c => c.place ?? ''),
      ...places.value.map(p => p.place),
    ].map(p => p.trim())
    return [...new Set(all.filter(Boolean))]
  })
  /** Where and how others and the calculation expect it to fail. */
  const foretoldPlaces = computed(() => {
    const failure = page.value.view?.failure
    return [
      ...page.value.predictions.map(({ source, place, mode }) => ({ by: source, place, mode })),
      ...(failure ? [{ by: page.value.view!.predictedBy, place: '', mode: failure.mode }] : []),
    ].filter((p, i, all) => all.findIndex(o => o.by === p.by && o.place === p.place && o.mode === p.mode) === i)
  })
  /** Predicted curves as series of the figure of that name: dotted beside what is measured. */
  function predictedCurves(figure: string): Series[] {
    const said = page.value.curves.filter(c => c.quantity === figure)
    // Until the first sample locks it, the calculation is the plan's as it stands.
    const own = said.some(c => c.method === 'calculation') ? undefined : page.value.view?.curves[figure]
    const series = said.map(c => ({
      name: `Predicted: ${c.source}${c.config ? `, ${c.config}` : ''}`,
      style: 'predicted' as const,
      config: c.config,
      ...c.curve,
    }))
    return own ? [{ name: 'Predicted', style: 'predicted', ...own }, ...series] : series
  }
  return {
    store,
    page,
    own,
    known,
    family,
    outline,
    predictedCurves,
    expectedPlaces: places,
    placeNames,
    foretoldPlaces,
    units,
    resultKind,
    resultLabel,
  }
}
