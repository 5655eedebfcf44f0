import { mount, type VueWrapper } from '@vue/test-utils'
import { onKeyStroke, useEventListener, useTimeoutFn } from '@vueuse/core'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import '../../test/nuxt-globals'
import HintBubble from './HintBubble.vue'

Object.assign(globalThis, {
  onKeyStroke,
  useEventListener,
  useTimeoutFn,
  useRoute: () => ({ fullPath: '/' }),
})

describe('words beside a thing', () => {
  let w: VueWrapper
  let near: HTMLElement
  const bubble = () => document.querySelector('[role="tooltip"]')
  const send = async (type: string, to: Element, more: object = {}) => {
    to.dispatchEvent(Object.assign(new Event(type, { bubbles: true }), more))
    await nextTick()
  }
  beforeEach(() => {
    vi.useFakeTimers()
    near = document.body.appendChild(document.createElement('button'))
    near.dataset['hint'] = 'Undo the last change'
    near.innerHTML = '<svg></svg>'
    w = mount(HintBubble, { attachTo: document.body })
  })
  afterEach(() => {
    w.unmount()
    near.remove()
    vi.useRealTimers()
  })

  it('come when the pointer rests, from whatever lies inside, and describe the element while they stand', async () => {
    await send('pointerover', near.firstElementChild!, { pointerType: 'mouse' })
    expect(bubble()).toBeNull()
    vi.advanceTimersByTime(400)
    await nextTick()
    expect(bubble()?.textContent).toBe('Undo the last change')
    expect(near.getAttribute('aria-describedby')).toBe(bubble()!.id)
    await send('pointerover', document.body, { pointerType: 'mouse' })
    expect(bubble()).toBeNull()
    expect(near.hasAttribute('aria-describedby')).toBe(false)
  })

  it('come at a touch at once, go with Escape and with the next touch', async () => {
    await send('pointerdown', near, { pointerType: 'touch' })
    expect(bubble()?.textContent).toBe('Undo the last change')
    window.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }))
    await nextTick()
    expect(bubble()).toBeNull()
    await send('pointerdown', near, { pointerType: 'touch' })
    await send('pointerdown', document.body, { pointerType: 'touch' })
    expect(bubble()).toBeNull()
  })

  it('keep a description that is there, and do not come for empty words', async () => {
    near.setAttribute('aria-describedby', 'problem')
    await send('pointerdown', near, { pointerType: 'touch' })
    expect(near.getAttribute('aria-describedby')).toBe('problem')
    near.dataset['hint'] = ''
    await send('pointerdown', document.body, { pointerType: 'touch' })
    await send('pointerdown', near, { pointerType: 'touch' })
    expect(bubble()).toBeNull()
  })
})
