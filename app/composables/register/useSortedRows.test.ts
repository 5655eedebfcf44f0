import { METRIC, registers, type Register } from '@hypomet/core'
import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { h, nextTick, ref } from 'vue'
import '../../test/nuxt-globals'
import { useSortedRows } from './useSortedRows'
import type { RegisterRow } from './useRegister'

const sensor = (id: number, name: string, value: number, unit: string): RegisterRow =>
  ({ id, version: 1, name, kind: 'force', fullScale: { value, unit }, state: 'in-use' }) as unknown as RegisterRow

describe('rows of a register', () => {
  const rows = [sensor(1, 'Cell 10', 2, 'kN'), sensor(2, 'Cell 9', 900, 'N'), sensor(3, 'Ring', 300, 'lbf')]
  const filter = ref('')
  let sorted!: ReturnType<typeof useSortedRows>
  mount({
    setup() {
      sorted = useSortedRows(
        registers['sensor'] as Register,
        () => rows,
        () => ({ refs: {}, prefer: METRIC, families: [] }),
        () => filter.value,
      )
      return () => h('p')
    },
  })
  const ids = () => sorted.shown.value.map(s => s.row.id)

  it('sort by the size of a quantity, whatever its unit, and names as people count', async () => {
    expect(ids()).toEqual([1, 2, 3])
    sorted.sortBy('fullScale')
    await nextTick()
    const first = ids()
    expect([...first].sort()).toEqual([1, 2, 3])
    // 900 N, 300 lbf = 1334 N, 2 kN, whichever way is first.
    expect([
      [2, 3, 1],
      [1, 3, 2],
    ]).toContainEqual(first)
    sorted.sortBy('name')
    await nextTick()
    expect(sorted.sortOf('name')).toBe('asc')
    expect(ids()).toEqual([2, 1, 3])
  })

  it('are thinned by words that all stand somewhere in a row', async () => {
    filter.value = 'cell kn'
    await nextTick()
    expect(ids()).toEqual([1])
    filter.value = ''
  })
})
