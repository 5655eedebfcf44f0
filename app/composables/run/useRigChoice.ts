import { FAULT_KINDS, type Fault, type FaultKind } from '@hypomet/core'

/** How the simulated rig is to run: its pace, the article it draws, and what goes wrong meanwhile. */
export function useRigChoice(surpriseAtFirst: 'drawn' | 'none' = 'none') {
  const { page } = useTest()
  const view = computed(() => page.value.view!)
  const pace = ref(5)
  const seed = ref(1)
  const surprise = ref<'drawn' | 'none' | FaultKind>(surpriseAtFirst)
  const channels = computed(() => view.value.channels.filter(c => c.expression === null))
  const role = ref(channels.value.at(-1)?.role ?? '')
  const after = ref(Math.round(view.value.duration / 2))
  const ofChannel = computed(
    () => surprise.value !== 'drawn' && surprise.value !== 'none' && FAULT_KINDS[surprise.value].of === 'channel',
  )

  function faults(): Fault[] | 'drawn' {
    const kind = surprise.value
    if (kind === 'drawn') return 'drawn'
    if (kind === 'none') return []
    const hit = ofChannel.value ? role.value : view.value.commanded.role
    return [{ kind, role: hit, label: channels.value.find(c => c.role === hit)?.label ?? hit, at: after.value }]
  }
  /** As the server takes it. */
  const asked = () => ({ pace: pace.value, seed: seed.value, faults: faults() })
  return { pace, seed, surprise, role, after, channels, ofChannel, asked }
}

export type RigChoice = ReturnType<typeof useRigChoice>
