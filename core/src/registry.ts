import type { AnyFamily, Calculation } from './method/define'
import { beam } from './calc/beam'
import { signalButterworth, signalChannelClass } from './calc/signal-filter'
import { signalShockResponse, signalWelch } from './calc/signal-spectra'
import { signalLag, signalSteps } from './calc/signal-time'
import { estimate } from './calc/estimate'
import { toleranceFactor } from './calc/tolerance-factor'
import { uncertainty } from './calc/uncertainty'
import { storedEnergy } from './calc/stored-energy'
import { staticLoad } from './families/static/index'

const byId = <T extends { id: string }>(list: T[]): Record<string, T | undefined> => Object.fromEntries(list.map(m => [m.id, m]))

export const familyList: AnyFamily[] = [staticLoad]
/** The registry forgets which calculation's settings are whose; each gets back what its own schema parsed. */
export const calcList = [beam, storedEnergy, signalButterworth, signalChannelClass, signalWelch, signalShockResponse, signalLag, signalSteps, toleranceFactor, uncertainty, estimate] as unknown as Calculation[]

export const families = byId(familyList)
export const calcs = byId(calcList)
