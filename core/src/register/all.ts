import { actionRegister } from './actions'
import { constantRegister } from './constants'
import { firingRegister, lessonRegister } from './lessons'
import { limitRegister } from './limits'
import { personRegister } from './people'
import { predictionRegister } from './predictions'
import type { Register } from './register'
import { sensorRegister } from './sensors'
import { taskRegister } from './tasks'
import { articleRegister, campaignRegister, revisionRegister, testRegister } from './things'

export const registers: Record<string, Register | undefined> = Object.fromEntries(
  (
    [
      campaignRegister,
      articleRegister,
      revisionRegister,
      testRegister,
      limitRegister,
      predictionRegister,
      constantRegister,
      actionRegister,
      lessonRegister,
      firingRegister,
      sensorRegister,
      personRegister,
      taskRegister,
    ] as Register[]
  ).map(r => [r.id, r]),
)
