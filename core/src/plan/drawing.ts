import type { Kind } from '../quantity/index'

/* A set-up as plain data: places in metres (y downward), so that whatever draws it keeps to scale. */

export type DrawnPoint = readonly [x: number, y: number]
export type Tone = 'article' | 'rest' | 'fixture' | 'bag' | 'water' | 'gas' | 'soft' | 'link' | 'ground'

export type DrawingItem =
  | { is: 'area'; points: DrawnPoint[]; tone: Tone; label?: string }
  | { is: 'line'; points: DrawnPoint[]; tone: Tone }
  | { is: 'circle'; at: DrawnPoint; radius: number; tone: Tone }
  /** A root clamped in a wall, a pin or a roller. */
  | { is: 'support'; at: DrawnPoint; as: 'clamp' | 'pin' | 'roller' | 'prop'; depth: number }
  /** An arrow that pulls at its place, or with `into` pushes at it; `share` of the longest arrow. */
  | {
      is: 'force'
      at: DrawnPoint
      toward: DrawnPoint
      value: number
      kind: Kind
      share: number
      tone: 'load' | 'reaction'
      into?: boolean
      name?: string
    }
  | { is: 'turn'; at: DrawnPoint; value: number; kind: Kind; tone: 'load' | 'reaction'; name?: string }
  | {
      is: 'measure'
      from: DrawnPoint
      to: DrawnPoint
      value: number
      kind: Kind
      tone: 'plain' | 'predicted'
      side: 'above' | 'below' | 'left' | 'right'
      name?: string
    }
  | { is: 'mark'; at: DrawnPoint; text: string; side: 'above' | 'below' }
  | {
      is: 'text'
      at: DrawnPoint
      text: string
      value?: number
      kind?: Kind
      anchor: 'start' | 'middle' | 'end'
      tone: 'ink' | 'quiet' | 'caution'
    }

export interface Drawing {
  /** What it shows, for those who do not see it. */
  title: string
  /** Corners of what is drawn, m. */
  from: DrawnPoint
  to: DrawnPoint
  toScale: boolean
  items: DrawingItem[]
}

/** Outline of a box between two corners. */
export const box = (x0: number, y0: number, x1: number, y1: number): DrawnPoint[] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
]

export const shareOf = (value: number, largest: number): number =>
  largest > 0 ? Math.max(0.12, Math.abs(value) / largest) : 0.12
