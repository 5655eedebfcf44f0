import type { PlanDraft } from './usePlanDraft'

/** Parts that hold examples, without one that somebody typed. How load is brought in is many numbers: it is said. */
export const ownedBy = (plan: PlanDraft, part: string): string[] =>
  ((plan['examples'] ?? []) as string[]).filter(p => p !== part || p === 'loading')

/** Changes one part of a plan being edited; a part without a value is left out. */
export const setPart =
  (draft: Ref<PlanDraft>) =>
  (key: string, value: unknown): void => {
    const next = {
      ...draft.value,
      [key]: value,
      ...(key === 'examples' ? {} : { examples: ownedBy(draft.value, key) }),
    }
    if (value === null || value === undefined) Reflect.deleteProperty(next, key)
    draft.value = next
  }
