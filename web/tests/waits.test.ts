import { mount } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { defineComponent, effectScope, nextTick, ref } from 'vue'

import { useKeys } from '@/composables/keys'
import { useLate } from '@/composables/late'
import { clock, when } from '@/composables/times'

beforeEach(() => vi.useFakeTimers())
afterEach(() => vi.useRealTimers())

it('tells a wait only when it is long, and each wait anew', async () => {
  const awaited = ref<number | null>(null)
  const scope = effectScope()
  const late = scope.run(() => useLate(() => awaited.value))!
  awaited.value = 1
  await nextTick()
  vi.advanceTimersByTime(399)
  expect(late.value).toBe(false)
  vi.advanceTimersByTime(1)
  expect(late.value).toBe(true)
  awaited.value = 2
  await nextTick()
  expect(late.value).toBe(false)
  vi.advanceTimersByTime(300)
  awaited.value = null
  await nextTick()
  vi.advanceTimersByTime(1000)
  expect(late.value).toBe(false)
  awaited.value = 3
  await nextTick()
  scope.stop()
  vi.advanceTimersByTime(1000)
  expect(late.value).toBe(false)
})

it('says the time of today, and the day of what was before', () => {
  vi.setSystemTime(new Date(2031, 4, 14, 18, 0))
  expect(when(new Date(2031, 4, 14, 9, 5).toISOString())).toBe('09:05')
  expect(when(new Date(2031, 4, 13, 23, 59).toISOString())).toBe('13 May, 23:59')
  expect(clock(new Date(2031, 0, 1, 7, 30).toISOString())).toBe('07:30')
})

const withKeys = (actions: Record<string, () => void>) => mount(defineComponent({ setup: () => (useKeys(actions), () => null) }))

function press(key: string, more: KeyboardEventInit = {}, from: EventTarget = document.body) {
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more })
  from.dispatchEvent(event)
  return event
}

it('runs what a key stands for, and nothing else', () => {
  const actions = { n: vi.fn(), 'ctrl+z': vi.fn(), 'ctrl+shift+z': vi.fn(), '?': vi.fn() }
  const bench = withKeys(actions)
  expect(press('n').defaultPrevented).toBe(true)
  press('N', { shiftKey: true })
  press('z', { ctrlKey: true })
  press('z', { metaKey: true })
  press('Z', { ctrlKey: true, shiftKey: true })
  press('?', { shiftKey: true })
  expect(Object.values(actions).map((action) => action.mock.calls.length)).toEqual([2, 2, 1, 1])
  expect(press('n', { altKey: true }).defaultPrevented).toBe(false)
  expect(press('q').defaultPrevented).toBe(false)
  bench.unmount()
  press('n')
  expect(actions.n).toHaveBeenCalledTimes(2)
})

it('leaves keys to who types, and to a dialog that is open', () => {
  const n = vi.fn()
  const bench = withKeys({ n })
  for (const [tag, type] of [
    ['input', 'text'],
    ['textarea', ''],
    ['select', ''],
  ]) {
    const field = document.createElement(tag)
    if (type) field.setAttribute('type', type)
    document.body.append(field)
    press('n', {}, field)
    field.remove()
  }
  expect(n).not.toHaveBeenCalled()
  const tick = document.createElement('input')
  tick.type = 'checkbox'
  document.body.append(tick)
  press('n', {}, tick)
  tick.remove()
  expect(n).toHaveBeenCalledTimes(1)
  const dialog = document.createElement('div')
  dialog.className = 'v-overlay--active v-dialog'
  document.body.append(dialog)
  press('n')
  dialog.remove()
  expect(n).toHaveBeenCalledTimes(1)
  bench.unmount()
})
