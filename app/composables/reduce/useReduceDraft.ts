import { settingsAt } from './reduceSettings'

type Settings = Record<string, unknown>

interface Written {
  /** The kept reduction that it was begun from. */
  base: number | null
  /** What a person set, by key; null where they took it away. */
  said: Settings
  /** Proposals that a person accepted. */
  accepted: string[]
}

const NOTHING: Written = { base: null, said: {}, accepted: [] }

/**
 * Settings of a reduction in the making: proposals, and over them what a person said, which nothing but that person
 * takes away. It survives leaving the page.
 */
export function useReduceDraft(testId: number, kept: () => { id: number; settings: Settings } | null) {
  const written = useLocalStorage<Written>(`hypomet-reduce-${testId}`, NOTHING, { initOnMounted: true })
  const proposed = shallowRef<Settings | null>(null)
  const base = computed(() => kept()?.id ?? null)
  /** A draft of before something was kept is of no use any more. */
  const own = computed((): Written => (written.value.base === base.value ? written.value : NOTHING))
  const isAfresh = ref(false)
  const ground = computed(() => (kept() && !isAfresh.value ? kept()!.settings : (proposed.value ?? {})))
  const settings = computed((): Settings => {
    const all = { ...ground.value, ...own.value.said }
    return Object.fromEntries(Object.entries(all).filter(([, v]) => v !== null && v !== undefined))
  })
  const write = (change: Partial<Written>) => {
    written.value = { ...own.value, base: base.value, ...change }
  }
  const say = (key: string, value: unknown) => write({ said: { ...own.value.said, [key]: value ?? null } })
  return {
    settings,
    proposed,
    /** Keys whose values stand as they were proposed, neither touched nor accepted. */
    open: computed(() =>
      kept() && !isAfresh.value
        ? []
        : Object.keys(ground.value).filter(k => !(k in own.value.said) && !own.value.accepted.includes(k)),
    ),
    /** What a person has said and not kept yet. */
    said: computed(() => Object.keys(own.value.said)),
    say,
    move(path: string, x: number, from: Settings): void {
      const key = path.split('.')[0]!
      say(key, settingsAt(from, path, x)[key])
    },
    accept: (key: string) => write({ accepted: [...new Set([...own.value.accepted, key])] }),
    /** Proposals anew; what was said stays. */
    propose(): void {
      isAfresh.value = true
      write({ accepted: [] })
    },
    /** What was kept is no draft any more; what was said while it was being kept still is. */
    settle(sent: Settings): void {
      const isLater = ([key, value]: [string, unknown]) => JSON.stringify(sent[key] ?? null) !== JSON.stringify(value)
      isAfresh.value = false
      const said = Object.fromEntries(Object.entries(written.value.said).filter(isLater))
      written.value = { ...NOTHING, base: base.value, said }
    },
    /** Back to what was kept, or proposed. */
    discard(): void {
      isAfresh.value = false
      written.value = { ...NOTHING, base: base.value }
    },
  }
}
