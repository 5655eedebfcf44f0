import type { NumberStyle } from '@hypomet/core'

/** How a campaign's numbers are written: `plain` where each entry must be clear by itself; null until it is asked. */
export type CampaignNumbers = NumberStyle | 'plain' | null

interface Writing {
  id: number | null
  numbers: CampaignNumbers
  /** Units chosen beside those of the system. */
  units: readonly string[]
}
const NOWHERE: Writing = { id: null, numbers: null, units: [] }

/** The number style of the campaign whose page is open; asked for at the first entry that may be two numbers. */
export function useNumberStyle() {
  const open = useState<Writing>('number-style', () => NOWHERE)
  const campaigns = useCampaignStore()
  return {
    style: computed((): NumberStyle | undefined =>
      open.value.numbers === 'plain' ? undefined : (open.value.numbers ?? undefined),
    ),
    units: computed(() => open.value.units),
    isAsked: computed(() => open.value.numbers === null),
    /** Holds from now on, for the whole campaign. */
    async say(numbers: NonNullable<CampaignNumbers>): Promise<void> {
      const { id } = open.value
      open.value = { ...open.value, numbers }
      if (id !== null) await campaigns.writeNumbers(id, numbers)
    },
    enter({ id, numbers, units }: Writing): void {
      open.value = { id, numbers, units: units ?? [] }
    },
    leave(id: number): void {
      if (open.value.id === id) open.value = NOWHERE
    },
  }
}

/** The campaign that this page belongs to: its fields read numbers in its style. */
export function useNumbersOf(campaign: () => (Writing & { id: number }) | null | undefined): void {
  const numbers = useNumberStyle()
  watch(campaign, c => c && numbers.enter(c), { immediate: true })
  onScopeDispose(() => numbers.leave(campaign()?.id ?? -1))
}
