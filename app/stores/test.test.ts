import { createPinia, defineStore, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'

type Answer = { test: { id: number } }
const answers = new Map<string, (page: Answer) => void>()
const get = vi.fn((path: string) => new Promise<Answer>(resolve => answers.set(path, resolve)))
Object.assign(globalThis, { defineStore, useApi: () => ({ get }) })

describe('the test that is looked at', () => {
  beforeEach(() => {
    setActivePinia(createPinia())
    answers.clear()
  })

  it('is the one that was asked for last, whichever answer comes first', async () => {
    const { useTestStore } = await import('./test')
    const store = useTestStore()
    const first = store.load(1)
    const second = store.load(2)
    answers.get('/api/tests/2')!({ test: { id: 2 } })
    await second
    answers.get('/api/tests/1')!({ test: { id: 1 } })
    expect((await first).test.id).toBe(1)
    expect(store.page!.test.id).toBe(2)
  })
})
