import { families } from '@hypomet/core'

/** The loaded test with its family and its campaign's units, for the stage pages. */
export function useTest() {
  const store = useTestStore()
  const page = computed(() => store.page!)
  const family = computed(() => families[page.value.test.family]!)
  const units = useUnits(() => page.value.campaign.system)
  const resultKind = (key: string) => family.value.results[key]?.kind ?? 'ratio'
  const resultLabel = (key: string) => family.value.results[key]?.label ?? key
  return { store, page, family, units, resultKind, resultLabel, api: useApi() }
}
