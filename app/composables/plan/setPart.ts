import type { PlanDraft } from './usePlanDraft'

/** Changes one part of a plan being edited; a part without a value is left out. */
export const setPart =
  (draft: Ref<PlanDraft>) =>
  (key: string, value: unknown): void => {
    const next = { ...draft.value, [key]: value }
    if (value === null || value === undefined) Reflect.deleteProperty(next, key)
    draft.value = next
  }
