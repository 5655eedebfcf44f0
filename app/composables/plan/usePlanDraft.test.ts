import { HypometError, METRIC } from '@hypomet/core'
import { mount } from '@vue/test-utils'
import { useDebounceFn, useRefHistory } from '@vueuse/core'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { computed, h, nextTick, reactive } from 'vue'
import * as demo from '../../../demo/scenario'
import { useAction } from '../shared/useAction'
import { copyOf, usePlanDraft, type PlanDraft } from './usePlanDraft'

const plan = {
  ...demo.revisions[1].test.plan,
  channels: demo.revisions[1].test.plan.channels.map(({ sensor: _, ...c }) => ({ ...c, sensorId: null })),
} as unknown as PlanDraft

/** A test page as the server answers it, and its saving. */
const page = reactive({
  test: { id: 7, family: 'static', plan: copyOf(plan) as PlanDraft | null, planEdit: 3, planState: 'draft' },
  revision: { properties: demo.revisions[1].properties },
  sensors: [] as never[],
  predictions: [] as never[],
  runs: [] as never[],
})
const savePlan = vi.fn<(plan: PlanDraft, edit: number) => Promise<{ edit: number }>>()
const refresh = vi.fn(() => Promise.resolve())
Object.assign(globalThis, {
  useAction,
  useDebounceFn,
  useRefHistory,
  useTest: () => ({
    page: computed(() => page),
    store: { refresh, savePlan },
    units: { prefer: computed(() => METRIC) },
    expectedPlaces: computed(() => []),
  }),
})

type Draft = ReturnType<typeof usePlanDraft>
function edited(initial: PlanDraft): Draft {
  let made!: Draft
  mount({ setup: () => ((made = usePlanDraft(initial)), () => h('p')) })
  return made
}
const settle = async () => {
  await nextTick()
  await vi.advanceTimersByTimeAsync(1000)
}

describe('a plan that is being edited', () => {
  beforeEach(() => {
    vi.useFakeTimers()
    sessionStorage.clear()
    savePlan.mockReset()
    page.test.plan = copyOf(plan)
    page.test.planEdit = 3
  })

  it('is worked out at once, saved by itself a moment later, and only once for several changes', async () => {
    savePlan.mockResolvedValue({ edit: 4 })
    const { draft, view, saved, editCount } = edited(plan)
    const rungs = view.value!.rungs.length
    draft.value.rungs.push({ target: { value: 9, unit: 'kN' }, hold: { value: 20, unit: 's' } })
    draft.value.rungs.push({ target: { value: 0, unit: 'kN' }, hold: { value: 20, unit: 's' } })
    await nextTick()
    expect(view.value!.rungs.length).toBe(rungs + 2)
    expect(saved.value).toBe(false)
    await settle()
    expect(savePlan).toHaveBeenCalledTimes(1)
    expect(savePlan.mock.calls[0]![1]).toBe(3)
    expect([saved.value, editCount()]).toEqual([true, 4])
    expect(sessionStorage.length).toBe(0)
  })

  it('is not saved while it does not hold together, shows where, and keeps the last sound view', async () => {
    const { draft, view, problems, problemAt } = edited(plan)
    const before = view.value
    draft.value.rungs[1]!.hold = { value: -5, unit: 's' }
    await settle()
    expect(savePlan).not.toHaveBeenCalled()
    expect(problems.value.map(p => p.place.path)).toContain('rungs.1.hold')
    expect(problemAt('rungs.1.hold')).toBeTruthy()
    expect(view.value).toBe(before)
    expect(sessionStorage.getItem('hypomet-plan-7')).toContain('-5')
  })

  it('does not overwrite what somebody else saved: mine stays in sight until theirs is taken', async () => {
    savePlan.mockRejectedValue(new HypometError('changed-meanwhile', 'Somebody else changed this plan.'))
    const { draft, saved, saveProblem, takeTheirs, editCount } = edited(plan)
    draft.value.rungs[0]!.note = 'mine'
    await settle()
    expect(saveProblem.value?.code).toBe('changed-meanwhile')
    expect(saved.value).toBe(false)
    expect(draft.value.rungs[0]!.note).toBe('mine')
    const theirs = copyOf(plan)
    theirs.rungs[0]!.note = 'theirs'
    page.test.plan = theirs
    page.test.planEdit = 9
    savePlan.mockResolvedValue({ edit: 10 })
    takeTheirs()
    expect([saveProblem.value, draft.value.rungs[0]!.note, editCount()]).toEqual([null, 'theirs', 9])
  })

  it('comes back after the page was left before it was saved', () => {
    const unsaved = copyOf(plan)
    unsaved.rungs[0]!.note = 'unsaved'
    sessionStorage.setItem('hypomet-plan-7', JSON.stringify(unsaved))
    expect(edited(plan).draft.value.rungs[0]!.note).toBe('unsaved')
  })

  it('takes any number of edits back, one by one', async () => {
    savePlan.mockResolvedValue({ edit: 4 })
    const { draft, history } = edited(plan)
    for (const note of ['one', 'two', 'three']) {
      draft.value.rungs[0]!.note = note
      await nextTick()
    }
    history.undo()
    expect(draft.value.rungs[0]!.note).toBe('two')
    history.undo()
    history.undo()
    expect(draft.value.rungs[0]!.note).toBe(plan.rungs[0]!.note)
    history.redo()
    expect(draft.value.rungs[0]!.note).toBe('one')
  })
})
