import type { NumberStyle } from '@hypomet/core'

/** How a campaign's numbers are written: `plain` where each entry must be clear by itself; null until it is asked. */
export type CampaignNumbers = NumberStyle | 'plain' | null

const NOWHERE: { id: number | null; numbers: CampaignNumbers } = { id: null, numbers: null }

/** The number style of the campaign whose page is open; asked for at the first entry that may be two numbers. */
export function useNumberStyle() {
  const open = useState('number-style', () => NOWHERE)
  const campaigns = useCampaignStore()
  return {
    style: computed((): NumberStyle | undefined =>
      open.value.numbers === 'plain' ? undefined : (open.value.numbers ?? undefined),
    ),
    isAsked: computed(() => open.value.numbers === null),
    /** Holds from now on, for the whole campaign. */
    async say(numbers: NonNullable<CampaignNumbers>): Promise<void> {
      const { id } = open.value
      open.value = { id, numbers }
      if (id !== null) await campaigns.writeNumbers(id, numbers)
    },
    enter(campaign: { id: number; numbers: CampaignNumbers }): void {
      open.value = { id: campaign.id, numbers: campaign.numbers }
    },
    leave(id: number): void {
      if (open.value.id === id) open.value = NOWHERE
    },
  }
}

/** The campaign that this page belongs to: its fields read numbers in its style. */
export function useNumbersOf(campaign: () => { id: number; numbers: CampaignNumbers } | null | undefined): void {
  const numbers = useNumberStyle()
  watch(campaign, c => c && numbers.enter(c), { immediate: true })
  onScopeDispose(() => numbers.leave(campaign()?.id ?? -1))
}
