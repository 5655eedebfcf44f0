import { HypometError } from '@hypomet/core'
import fc from 'fast-check'
import { createPinia, defineStore, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { useAction } from '../composables/shared/useAction'

/** The server turns a step into the one that does the opposite. */
const turned = vi.fn((_: string, { step }: { step: string }) => Promise.resolve({ step: `${step}'` }))
Object.assign(globalThis, { defineStore, useAction, useApi: () => ({ post: turned }) })
const { useUndoStore } = await import('./undo')

describe('what this window did', () => {
  beforeEach(() => {
    setActivePinia(createPinia())
    sessionStorage.clear()
    turned.mockClear()
  })

  it('is taken back and done again in any order, as two stacks would', async () => {
    const steps = fc.array(fc.constantFrom('did', 'undo', 'redo'), { maxLength: 25 })
    await fc.assert(
      fc.asyncProperty(steps, async commands => {
        setActivePinia(createPinia())
        const store = useUndoStore()
        const [done, undone]: [string[], string[]] = [[], []]
        for (const [i, command] of commands.entries()) {
          if (command === 'did') {
            store.did(`s${i}`, `thing ${i}`)
            done.push(`thing ${i}`)
            undone.length = 0
          } else {
            const [from, to] = command === 'undo' ? [done, undone] : [undone, done]
            await (command === 'undo' ? store.undo() : store.redo())
            if (from.length > 0) to.push(from.pop()!)
          }
          expect(store.done.map(s => s.what)).toEqual(done)
          expect(store.undone.map(s => s.what)).toEqual(undone)
        }
      }),
      { numRuns: 50 },
    )
  })

  it('takes keys that come quickly one after the other, each step once', async () => {
    const store = useUndoStore()
    for (const step of ['a', 'b', 'c']) store.did(step, step)
    await Promise.all([store.undo(), store.undo(), store.undo(), store.undo()])
    expect(turned.mock.calls.map(([, { step }]) => step)).toEqual(['c', 'b', 'a'])
    expect([store.done.length, store.undone.length]).toEqual([0, 3])
  })

  it('says what is refused and lets it go; what could not be asked stays', async () => {
    const store = useUndoStore()
    for (const step of ['a', 'b']) store.did(step, step)
    turned.mockRejectedValueOnce(new HypometError('changed-meanwhile', 'Changed since.'))
    await store.undo()
    expect([store.problem?.code, store.done.map(s => s.what), store.undone]).toEqual(['changed-meanwhile', ['a'], []])
    turned.mockRejectedValueOnce(new HypometError('unreachable', 'No answer.'))
    await store.undo()
    expect([store.problem?.code, store.done.map(s => s.what)]).toEqual(['unreachable', ['a']])
  })

  it('outlives a reload of the page', async () => {
    const before = useUndoStore()
    before.did('a', 'one')
    before.did('b', 'two')
    await before.undo()
    setActivePinia(createPinia())
    const after = useUndoStore()
    after.restore()
    expect([after.done.map(s => s.what), after.undone.map(s => s.what)]).toEqual([['one'], ['two']])
  })
})
