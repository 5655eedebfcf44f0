import * as z from 'zod'
import { planChain } from '../../calc/planning/drive-chain'
import { mayWait, plain, quantity } from '../../method/settings'
import type { Kind } from '../../quantity/index'
import type { Drawing, DrawingItem } from '../drawing'
import { box } from '../drawing'
import { stop, warn, type Finding } from '../finding'
import { percent } from '../percent'
import { column, fact, openFinding, type LoadingContext, type LoadingTable, type LoadingFact } from './loading'

/*
 * What a pull and a torque test share: a row of parts that all carry the load, of which the article is to be the
 * weakest.
 */

export const partFields = (kind: 'force' | 'torque') => ({
  name: z.string().min(1).meta({ title: 'Part' }),
  capacity: mayWait(quantity(kind, { title: 'Capacity', positive: true })),
  cov: plain({ title: 'Spread (cov)', positive: true, max: 1 }).default(0.05),
  article: z.boolean().default(false).meta({ title: 'Article' }),
})

export interface Part {
  name: string
  /** At its own place; left out where nobody knows it. */
  capacity?: number | undefined
  /** Its own load over that at the article. */
  ratio: number
  cov: number
  article: boolean
}

/** Parts by what they carry, seen from the article: weakest first. */
export function chainOf(all: readonly Part[]) {
  const parts = all.filter(isKnown)
  if (parts.length === 0) return { rows: [], articleCapacity: null, rigCapacity: null, articleFirst: null }
  const { tables, results } = planChain({ components: parts.map(p => ({ ...p })) })
  const c = tables['components']!.columns
  return {
    rows: (c['name'] as string[]).map((name, i) => ({
      name,
      capacity: c['capacityAtInput']![i] as number,
      first: c['probabilityFirst']![i] as number,
    })),
    articleCapacity: results['articleCapacity']!.value,
    rigCapacity: results['rigCapacity']!.value,
    articleFirst: results['probabilityArticleFirst']!.value,
  }
}

const isKnown = (p: Part): p is Part & { capacity: number } => p.capacity !== undefined

export type Chain = ReturnType<typeof chainOf>

export const chainFacts = ({ articleCapacity, rigCapacity, articleFirst }: Chain, kind: Kind): LoadingFact[] => [
  fact('Article carries', articleCapacity, kind),
  fact('Weakest of the rig', rigCapacity, kind),
  fact('Article fails first', articleFirst, 'ratio'),
]

export const chainTable = ({ rows }: Chain, kind: Kind): LoadingTable => ({
  title: 'Load path, weakest first',
  columns: [
    column(
      'part',
      'Part',
      'words',
      rows.map(r => r.name),
    ),
    column(
      'capacity',
      'Carries, at the article',
      kind,
      rows.map(r => r.capacity),
    ),
    column(
      'first',
      'Fails first',
      'ratio',
      rows.map(r => r.first),
    ),
  ],
})

/** Share of a part's capacity beyond which it is not loaded knowingly. */
const WORKING = 0.9

export function chainFindings(
  parts: readonly Part[],
  chain: Chain,
  kind: Kind,
  { rungs, top, show }: LoadingContext,
): Finding[] {
  const highest = rungs[top]?.target ?? 0
  if (!parts.some(p => p.article))
    return [
      stop(
        'no-article',
        'loading.path',
        'None of the parts is marked as the article.',
        'Tick the part that is tested.',
      ),
    ]
  const alone = parts.every(p => p.article)
    ? [
        warn(
          'path-alone',
          'loading.path',
          'Only the article stands in the load path; what pulls on it carries the same.',
          'Add hooks, shackles, cell and anchor with what they are rated for.',
        ),
      ]
    : []
  return alone.concat(
    parts.flatMap((p, i): Finding[] => {
      const path = `loading.path.${i}.capacity`
      if (!isKnown(p))
        return [
          openFinding(path, {
            title: `What ${p.name} carries`,
            hangs: p.article
              ? 'which part breaks first and the share at each rung'
              : 'whether it holds and breaks last',
            ...(p.article ? {} : { isNeeded: true }),
          }),
        ]
      if (p.article) return []
      const carries = p.capacity / p.ratio
      if (highest > WORKING * carries)
        return [
          stop(
            'path-capacity',
            path,
            `${p.name} carries ${show(carries, kind)} at the article; the ladder goes to ${show(highest, kind)} ` +
              `(${percent(highest / carries)} of it).`,
            `One of at least ${show((highest * p.ratio) / WORKING, kind)}, or end at ${show(WORKING * carries, kind)}.`,
          ),
        ]
      if (chain.articleCapacity !== null && carries <= chain.articleCapacity)
        return [
          warn(
            'rig-weaker',
            path,
            `${p.name} is no stronger than the article: it fails first in ` +
              `${percent(chain.rows.find(r => r.name === p.name)?.first ?? 0)} of cases.`,
            `Above ${show(chain.articleCapacity * p.ratio * 1.3, kind)} the article is what breaks.`,
          ),
        ]
      return []
    }),
  )
}

/** Parts in a row between two anchors, each as high as it is strong; the top rung runs through as a line. */
export function drawChain(
  title: string,
  parts: readonly Part[],
  chain: Chain,
  highest: number,
  kind: 'force' | 'torque',
  compression: boolean,
): Drawing {
  const carriesOf = (p: Part) => (isKnown(p) ? p.capacity / p.ratio : null)
  const most = Math.max(...parts.map(p => carriesOf(p) ?? 0), highest, 1e-9)
  const [width, gap, tall] = [1, 0.22, 1.1]
  const items: DrawingItem[] = []
  parts.forEach((p, i) => {
    const x = i * (width + gap)
    const carries = carriesOf(p)
    // One of which nobody knows is as high as the load that it has to carry.
    const h = (tall * (carries ?? highest)) / most / 2
    items.push({ is: 'area', points: box(x, -h, x + width, h), tone: p.article ? 'article' : 'fixture' })
    items.push({
      is: 'text',
      at: [x + width / 2, -tall / 2 - 0.16],
      text: p.name,
      anchor: 'middle',
      tone: p.article ? 'ink' : 'quiet',
    })
    items.push({
      is: 'text',
      at: [x + width / 2, 0.02],
      ...(carries === null ? { text: 'not known' } : { text: '', value: carries, kind }),
      anchor: 'middle',
      tone: carries === null ? 'quiet' : 'ink',
    })
    const first = chain.rows.find(r => r.name === p.name)?.first
    if (first !== undefined)
      items.push({
        is: 'text',
        at: [x + width / 2, tall / 2 + 0.24],
        text: `first in ${percent(first)}`,
        anchor: 'middle',
        tone: first > 0.5 && !p.article ? 'caution' : 'quiet',
      })
    if (i > 0)
      items.push({
        is: 'line',
        points: [
          [x - gap, 0],
          [x, 0],
        ],
        tone: 'link',
      })
  })
  const end = parts.length * (width + gap) - gap
  const level = (tall * highest) / most / 2
  items.push(
    {
      is: 'line',
      points: [
        [-0.15, -level],
        [end + 0.15, -level],
      ],
      tone: 'soft',
    },
    {
      is: 'line',
      points: [
        [-0.15, level],
        [end + 0.15, level],
      ],
      tone: 'soft',
    },
  )
  if (kind === 'force') {
    items.push({ is: 'support', at: [-0.05, 0], as: 'clamp', depth: 0.3 })
    items.push({
      is: 'force',
      at: [end + (compression ? 0.85 : 0.05), 0],
      toward: [compression ? -1 : 1, 0],
      value: highest,
      kind,
      share: 0.8,
      tone: 'load',
      name: 'top rung',
    })
  } else {
    items.push({ is: 'support', at: [-0.05, 0], as: 'clamp', depth: 0.3 })
    items.push({ is: 'turn', at: [end + 0.3, 0], value: highest, kind, tone: 'load', name: 'top rung' })
  }
  return { title, from: [-0.3, -tall / 2 - 0.2], to: [end + 0.9, tall / 2 + 0.3], toScale: false, items }
}
