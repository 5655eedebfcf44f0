import type { Rigs, Told } from '../live/rigs'
import type { HearsOfPages } from './pages'
import { talk } from './rpc'

/** Whether this process answers pages only, behind a front that has the runs. */
export const isBehindFront = (): boolean => process.env['HYPOMET_BEHIND_FRONT'] === '1' && process.send !== undefined

/** Runs that go on in the front. @param told  keeps what they have to say */
export function rigsOfFront(told: () => Told): Rigs & HearsOfPages {
  // A front that is gone takes the pages with it.
  process.on('disconnect', () => process.exit(0))
  return talk<Rigs & HearsOfPages, Told>(
    {
      send: m => void process.send!(m),
      onMessage: hear => process.on('message', hear),
      onLost: () => undefined,
    },
    {
      broke: (...args) => told().broke(...args),
      closed: (...args) => told().closed(...args),
      rehearsed: (...args) => told().rehearsed(...args),
    },
  )
}
