import type { Kind } from '../quantity/index'

export interface ResultDeclaration {
  label: string
  kind: Kind
  /** How it is got, in a sentence. */
  how?: string
  /** One or zero for yes or no. */
  isFlag?: true
  /** A number of things. */
  isCount?: true
  /** Which way a limit on it usually points; results without it are rarely limited. */
  limited?: 'atLeast' | 'atMost'
  /** What an article lacks that falls short in it. */
  driver?: Driver
  /** A value of what ended the test: where that was not the article, the article could have gone on. */
  atEnd?: true
}

/** Whether a result is as it is: a number of things, or yes or no. */
export const isCounted = (declared: Pick<ResultDeclaration, 'isFlag' | 'isCount'> | undefined): boolean =>
  declared?.isFlag === true || declared?.isCount === true

export const DRIVERS = [
  'strength',
  'stiffness',
  'set',
  'stability',
  'frequency',
  'energy',
  'flow',
  'heat',
  'rate',
  'thrust',
  'power',
] as const

/** Drivers that a change of sizes can be told to keep, and those of them that say how stiff an article is. */
export const KEEPABLE: readonly Driver[] = ['stiffness', 'frequency', 'strength']
export const STIFF: readonly Driver[] = ['stiffness', 'frequency']

/** What has to get better. */
export type Driver = (typeof DRIVERS)[number]
