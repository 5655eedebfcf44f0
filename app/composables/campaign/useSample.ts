/** The sample campaign on its way in: whether it is, begun by a click, and what follows when it is there. */
export function useSample(whenThere: (slug: string) => unknown) {
  const campaigns = useCampaignStore()
  const sample = shallowRef<Awaited<ReturnType<typeof campaigns.sample>>>({ state: 'none' })
  const { resume, pause } = useIntervalFn(look, 1500, { immediate: false })
  async function look(): Promise<void> {
    sample.value = await campaigns.sample()
    if (sample.value.state === 'loading') return
    pause()
    if (sample.value.state === 'there') await whenThere(sample.value.slug)
  }
  onMounted(async () => {
    sample.value = await campaigns.sample()
    if (sample.value.state === 'loading') resume()
  })
  return {
    sample,
    isLoading: computed(() => sample.value.state === 'loading'),
    async load(): Promise<void> {
      sample.value = await campaigns.loadSample()
      resume()
    },
  }
}
