import { mount } from '@vue/test-utils'
import { useDropZone, useFileDialog } from '@vueuse/core'
import { describe, expect, it, vi } from 'vitest'
import { defineComponent, nextTick, ref } from 'vue'
import '../../test/nuxt-globals'
import ChoiceBar from './ChoiceBar.vue'
import FilePicker from './FilePicker.vue'

Object.assign(globalThis, { useDropZone, useFileDialog })

describe('one of a few', () => {
  const choices = [
    { value: 'rig', title: 'Simulated rig' },
    { value: 'crew', title: 'Read by hand' },
  ] as const

  it('is a radio group with a name, chosen by a click and by the arrows', async () => {
    const chosen = ref<'rig' | 'crew'>('rig')
    const w = mount(
      defineComponent({
        components: { ChoiceBar },
        setup: () => ({ chosen, choices }),
        template: '<ChoiceBar v-model="chosen" label="Where from" :choices="choices" />',
      }),
      { attachTo: document.body },
    )
    const radios = () => w.findAll('[role="radio"]')
    expect(w.get('[role="radiogroup"]').text()).toContain('Where from')
    await radios()[1]!.trigger('click')
    expect(chosen.value).toBe('crew')
    await radios()[1]!.trigger('keydown', { key: 'ArrowLeft' })
    await nextTick()
    expect(chosen.value).toBe('rig')
    expect(radios().map(r => r.attributes('aria-checked'))).toEqual(['true', 'false'])
    w.unmount()
  })
})

describe('files', () => {
  const drop = (on: Element, ...files: File[]) => {
    const items = files.map(f => ({ kind: 'file', type: f.type }))
    const e = Object.assign(new Event('drop', { bubbles: true, cancelable: true }), { dataTransfer: { files, items } })
    on.dispatchEvent(e)
    return e
  }
  const file = (name: string) => new File(['t;F'], name, { type: 'text/csv' })

  it('come by a drop on the label, and nobody around takes them a second time', async () => {
    const around = vi.fn()
    document.body.addEventListener('drop', around)
    const w = mount(FilePicker, { props: { label: 'Logger file' }, attachTo: document.body })
    await nextTick()
    drop(w.element, file('a.csv'), file('b.csv'))
    expect((w.emitted('files')!.at(-1)![0] as File[]).map(f => f.name)).toEqual(['a.csv'])
    expect(around).not.toHaveBeenCalled()
    w.unmount()
    document.body.removeEventListener('drop', around)
  })

  it('come as many as there are where several are wanted', async () => {
    const w = mount(FilePicker, { props: { label: 'Photos', multiple: true }, attachTo: document.body })
    await nextTick()
    drop(w.element, file('a.csv'), file('b.csv'))
    expect((w.emitted('files')![0]![0] as File[]).map(f => f.name)).toEqual(['a.csv', 'b.csv'])
    expect(w.get('input').attributes('aria-label')).toBe('Photos')
    w.unmount()
  })
})
