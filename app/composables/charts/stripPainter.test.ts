import { expect, it } from 'vitest'
import { StripPainter, type StripBox } from './stripPainter'
import { StripRing } from './stripRing'

/** A canvas that remembers what was filled, in what colour. */
function canvas() {
  const filled: { colour: string; x: number; y: number; width: number; height: number }[] = []
  const g = {
    fillStyle: '',
    fillRect: (x: number, y: number, width: number, height: number) =>
      filled.push({ colour: g.fillStyle, x, y, width, height }),
  }
  return { filled, g: g as unknown as CanvasRenderingContext2D, take: () => filled.splice(0) }
}

const INK = { ground: 'ground', line: 'line', series: ['first', 'second'] }
const box = (series: number[], y = 0): StripBox => ({ series, x: 10, y, width: 200, height: 40 })

function running(boxes: StripBox[]) {
  const ring = new StripRing()
  ring.of(['load', 'a', 'b'])
  const c = canvas()
  const painter = new StripPainter(c.g, ring, boxes, 20, INK)
  const push = (t: number, load: number, a: number, b: number) => ring.push({ t, lo: [load, a, b], hi: [load, a, b] })
  return { ring, painter, push, ...c }
}

it('a pen sweeps: a new piece costs a few pixels of its strip, at the place of its time', () => {
  const { painter, push, take } = running([box([0])])
  for (let i = 0; i <= 40; i++) push(i / 10, Math.sin(i), 0, 0)
  painter.all()
  take()
  push(4.1, 0.3, 0, 0)
  painter.more()
  const drawn = take()
  expect(drawn.length).toBeLessThan(5)
  // 4.1 s of a window of 20 s over 200 px.
  for (const d of drawn) expect(d.x).toBeGreaterThanOrEqual(10 + 39)
  for (const d of drawn) expect(d.x + d.width).toBeLessThan(10 + 41 + 12)
  // Nothing new, nothing drawn.
  painter.more()
  expect(take()).toEqual([])
})

it('only a strip whose reading leaves its scale is drawn anew, with room to go on', () => {
  const upper = box([0])
  const lower = box([1], 50)
  const { painter, push, take } = running([upper, lower])
  for (let i = 0; i <= 20; i++) push(i / 10, i % 2, i % 2, 0)
  painter.all()
  take()
  push(2.1, 9, 1, 0)
  painter.more()
  const whole = take().filter(f => f.colour === 'ground' && f.width === 200)
  expect(whole.map(f => f.y)).toEqual([0])
  expect(painter.scaleOf(upper)!.high).toBeGreaterThan(9)
  expect(painter.scaleOf(lower)!.high).toBeLessThan(2)
})

it('a pair is drawn over one another in two colours; what has no number leaves a gap', () => {
  const { painter, push, take } = running([box([1, 2])])
  for (let i = 0; i <= 10; i++) push(i / 10, 0, 1, 2)
  painter.all()
  expect(new Set(take().map(f => f.colour))).toEqual(new Set(['ground', 'first', 'second']))
  push(1.1, 0, 1, NaN)
  painter.more()
  expect(new Set(take().map(f => f.colour))).toEqual(new Set(['ground', 'first']))
})

it('the ring keeps the newest, and begins anew when other channels are asked for', () => {
  const { ring, push } = running([])
  for (let i = 0; i < 3000; i++) push(i, i, 0, 0)
  expect(ring.t[(ring.count - 1) % ring.length]).toBe(2999)
  let heard = 0
  ring.listen(() => heard++)
  ring.of(['a'])
  // A piece that was still on its way, of the channels before, is not taken.
  ring.push({ t: 1, lo: [1, 2, 3], hi: [1, 2, 3] })
  expect(ring.count).toBe(0)
  ring.push({ t: 1, lo: [1], hi: [1] })
  expect([ring.count, heard]).toEqual([1, 2])
})
