import { families, type Series } from '@hypomet/core'

/** The loaded test with its family and its campaign's units, for the stage pages. */
export function useTest() {
  const store = useTestStore()
  const page = computed(() => store.page!)
  const family = computed(() => families[page.value.test.family]!)
  const units = useUnits(() => page.value.campaign.system)
  const resultKind = (key: string) => family.value.results[key]?.kind ?? 'ratio'
  const resultLabel = (key: string) => family.value.results[key]?.label ?? key
  /** Predicted curves as series of the figure of that name: dotted beside what is measured. */
  function predictedCurves(figure: string): Series[] {
    const said = page.value.curves.filter(c => c.quantity === figure)
    // Until the first sample locks it, the calculation is the plan's as it stands.
    const own = said.some(c => c.method === 'calculation') ? undefined : page.value.view?.curves[figure]
    const series = said.map(c => ({ name: `Predicted: ${c.source}`, style: 'predicted' as const, ...c.curve }))
    return own ? [{ name: 'Predicted', style: 'predicted', ...own }, ...series] : series
  }
  return { store, page, predictedCurves, family, units, resultKind, resultLabel, api: useApi() }
}
