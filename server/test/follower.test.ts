import { describe, expect, it } from 'vitest'
import type { Ladder } from '@hypomet/core'
import { LadderFollower } from '../live/drivers/follower'

const rung = (target: number, hold: number, decision = false): Ladder['rungs'][number] => ({
  target,
  also: [],
  hold,
  ramp: 5,
  source: 0,
  cycle: 1,
  cycles: 1,
  decision,
  support: null,
  note: '',
})
const RUNGS = [rung(0, 2), rung(500, 3), rung(1000, 3, true), rung(0, 2)]

/** Ten readings a second; the cell reads 40 N too much. */
function crew() {
  const follower = new LadderFollower(RUNGS, 'load', 1000, null)
  follower.zeroOf = () => 40
  let t = 0
  const read = (load: number, seconds: number) => {
    for (let i = 0; i < 10 * seconds; i++) follower.feed({ t: [(t += 0.1)], channels: { load: [load + 40] } })
    return [follower.state.phase, follower.state.rung]
  }
  return { follower, read }
}

describe('a ladder that people climb', () => {
  it('is followed by what is read, less its zero: a rung is reached when its load is on, and held from then', () => {
    const { read } = crew()
    expect(read(0, 2.2)).toEqual(['ramp', 1])
    // However long it takes.
    expect(read(300, 60)).toEqual(['ramp', 1])
    // Two hundredths of the highest rung is near enough.
    expect(read(485, 1)).toEqual(['hold', 1])
    expect(read(500, 2.5)).toEqual(['ramp', 2])
    expect(read(1000, 1)).toEqual(['hold', 2])
    expect(read(1000, 3)).toEqual(['waiting', 2])
    expect(read(1000, 30)).toEqual(['waiting', 2])
  })

  it('comes down when it is read to be down, or somebody says so', () => {
    const { follower, read } = crew()
    read(0, 2.2)
    read(500, 1)
    follower.command('abort')
    expect(read(500, 30)).toEqual(['unloading', 1])
    expect(read(0, 1)[0]).toBe('ended')
    const blind = crew()
    blind.read(0, 2.2)
    blind.read(500, 1)
    blind.follower.command('stop')
    blind.read(500, 30)
    blind.follower.command('reached')
    expect([blind.read(500, 1)[0], blind.follower.state.end]).toEqual(['ended', 'stopped'])
  })

  it(
    'a load above the rung that lasts is one that no rung plans: said once, with its size; an ' + 'overshoot is none',
    () => {
      const { follower, read } = crew()
      read(0, 2.2)
      read(500, 1)
      follower.command('hold')
      read(570, 0.6)
      expect(follower.unplanned()).toBeNull()
      read(500, 0.5)
      expect(follower.unplanned()).toBeNull()
      let over: number | null = null
      for (let i = 0; i < 20 && over === null; i++) {
        read(580, 0.1)
        over = follower.unplanned()
      }
      expect(over).toBeCloseTo(80, 6)
      read(580, 2)
      expect(follower.unplanned()).toBeNull()
    },
  )

  it('held, time goes by and nothing else', () => {
    const { follower, read } = crew()
    read(0, 2.2)
    read(500, 1)
    follower.command('hold')
    expect(read(500, 60)).toEqual(['paused', 1])
    follower.command('resume')
    expect(read(500, 1)).toEqual(['hold', 1])
  })
})
