import type { AnyFamily, Calculation } from './method/define'
import { beam } from './calc/beam'
import { storedEnergy } from './calc/stored-energy'
import { staticLoad } from './families/static/index'

const byId = <T extends { id: string }>(list: T[]): Record<string, T | undefined> => Object.fromEntries(list.map(m => [m.id, m]))

export const familyList: AnyFamily[] = [staticLoad]
export const calcList: Calculation[] = [beam as Calculation, storedEnergy as Calculation]

export const families = byId(familyList)
export const calcs = byId(calcList)
