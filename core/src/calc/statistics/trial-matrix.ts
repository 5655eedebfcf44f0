import tQuantile from '@stdlib/stats-base-dists-t-quantile'
import * as z from 'zod'
import { defineCalc } from '../../method/calculation'
import type { ResultTable } from '../../method/reduction'
import type { Warning } from '../../warning'
import { issue, plain } from '../../method/settings'
import { aliasGroups, fitFactorial, termsOf, type Effect, type FactorialRun } from '../../statistics/factorial'
import { nextTrials } from '../../statistics/nextTrials'
import { median } from '../../statistics/quantile'
import { exact, tableOf } from '../answer'

const MOST_FACTORS = 7

const settings = z
  .object({
    factors: z
      .array(
        z.object({
          name: z.string().min(1).meta({ title: 'Factor' }),
          low: z.string().default('low').meta({ title: 'Low' }),
          high: z.string().default('high').meta({ title: 'High' }),
        }),
      )
      .min(2)
      .max(MOST_FACTORS)
      .meta({ title: 'Factors' }),
    trials: z
      .array(
        z.object({
          levels: z.string().meta({ title: 'Levels, − or + for each factor' }),
          response: plain({ title: 'Measured' }),
        }),
      )
      .default([])
      .meta({ title: 'Trials so far' }),
    next: plain({ title: 'Trials to plan next', whole: true, min: 0, max: 64 }).default(4),
  })
  .superRefine((s, ctx) => {
    if (new Set(s.factors.map(f => f.name)).size < s.factors.length)
      issue(ctx, 'setting-range', 'Two factors have the same name.', ['factors'])
    s.trials.forEach((t, i) => {
      if (!signs(t.levels) || signs(t.levels)!.length !== s.factors.length)
        issue(ctx, 'setting-range', `A level for each of the ${s.factors.length} factors: a row of − and +.`, [
          'trials',
          i,
          'levels',
        ])
    })
  })

/** −1 and 1 of a row like “+−−+”; null where something else stands there. */
function signs(levels: string): (-1 | 1)[] | null {
  const marks = [...levels.replace(/[\s,]/g, '')]
  return marks.every(m => '+-−'.includes(m)) ? marks.map(m => (m === '+' ? 1 : -1)) : null
}

/**
 * Two-level trials of several factors: effects with their intervals and what each cannot be told from, and the trials
 * that
 * would tell most of it apart next. Where no trial is left over for the scatter, it is estimated from the small
 * effects.
 *
 * @source Box, Hunter & Hunter, Statistics for Experimenters, ch. 5–6; Lenth (1989), Quick and easy analysis of
 * unreplicated factorials
 */
export const trialMatrix = defineCalc({
  id: 'trial-matrix',
  title: 'Trial matrix',
  purpose: 'Main effects and pairs of a two-level design with intervals and aliases, and the next fraction',
  version: '1.0.0',
  settings,
  example: {
    factors: [
      { name: 'fillet', low: '2 mm', high: '4 mm' },
      { name: 'steel', low: 'plain', high: 'alloy' },
      { name: 'temper', low: '400 °C', high: '550 °C' },
      { name: 'peening', low: 'no', high: 'yes' },
    ],
    trials: [
      ['−−−−', 1310],
      ['+−−+', 1455],
      ['−+−+', 1515],
      ['++−−', 1590],
      ['−−++', 1345],
      ['+−+−', 1405],
      ['−++−', 1500],
      ['++++', 1668],
    ].map(([levels, response]) => ({ levels: levels as string, response: response as number })),
    next: 4,
  },
  labels: {
    mean: 'Mean',
    scatter: 'Scatter of an effect',
    largest: 'Largest effect',
    told: 'Resolved effects',
    toldNext: 'Resolved after the next',
  },
  calculate({ factors, trials, next }) {
    const names = factors.map(f => f.name)
    const runs: FactorialRun[] = trials.map(t => ({ levels: levelsOf(names, signs(t.levels)!), response: t.response }))
    const planned = nextTrials(
      names,
      runs.map(r => r.levels),
      next,
    )
    const after = [...runs, ...planned.map(levels => ({ levels }))]
    const groups = (list: readonly Pick<FactorialRun, 'levels'>[]) => aliasGroups(termsOf(names), list)
    const isEnough = runs.length > 0 && runs.length >= groups(runs).length + 1 && groups(runs).length > 0
    const fit = isEnough ? fitFactorial(names, runs) : null
    const found = fit ? withScatter(fit.effects) : null
    const known = (list: readonly Pick<FactorialRun, 'levels'>[]) =>
      groups(list).filter(g => g.aliases.length === 0).length
    const warnings: Warning[] = [
      ...(runs.length > 0 && !fit
        ? [
            {
              code: 'too-few',
              message:
                `${runs.length} trials cannot tell the ${groups(runs).length} effects apart that vary in ` +
                `them: make the next ones.`,
            },
          ]
        : []),
      ...(found?.isLenth
        ? [
            {
              code: 'no-replicates',
              message:
                'No trial is left over for the scatter: it is estimated from the smallest effects, which takes ' +
                'most of them to be nothing.',
            },
          ]
        : []),
    ]
    return {
      results: {
        mean: exact(fit?.mean ?? null, '1'),
        largest: exact(
          found
            ? found.effects.reduce<number | null>(
                (m, e) => (m === null || Math.abs(e.effect) > Math.abs(m) ? e.effect : m),
                null,
              )
            : null,
          '1',
        ),
        scatter: exact(found?.scatter ?? null, '1'),
        told: exact(known(runs), '1'),
        toldNext: exact(known(after), '1'),
      },
      tables: {
        ...(found ? { effects: effectTable(found.effects) } : {}),
        ...(next > 0 ? { next: nextTable(factors, planned) } : {}),
        aliases: aliasTable(groups(runs), groups(after)),
      },
      warnings,
    }
  },
})

const levelsOf = (names: readonly string[], row: readonly (-1 | 1)[]): FactorialRun['levels'] =>
  Object.fromEntries(names.map((n, i) => [n, row[i]!]))

/** Intervals of the fit; where it has none, by Lenth's pseudo standard error of the effects themselves. */
function withScatter(effects: readonly Effect[]): { effects: Effect[]; scatter: number | null; isLenth: boolean } {
  if (effects.some(e => e.interval !== null)) {
    const first = effects.find(e => e.interval !== null)!
    return { effects: [...effects], scatter: (first.interval![1] - first.interval![0]) / 2, isLenth: false }
  }
  if (effects.length < 3) return { effects: [...effects], scatter: null, isLenth: false }
  const sizes = effects.map(e => Math.abs(e.effect))
  const rough = 1.5 * median(sizes)
  const error = 1.5 * median(sizes.filter(v => v < 2.5 * rough))
  const half = tQuantile(0.975, effects.length / 3) * error
  return {
    effects: effects.map(e => ({ ...e, interval: [e.effect - half, e.effect + half] })),
    scatter: half,
    isLenth: true,
  }
}

const effectTable = (effects: readonly Effect[]): ResultTable =>
  tableOf(
    [...effects]
      .sort((a, b) => Math.abs(b.effect) - Math.abs(a.effect))
      .map(e => ({
        effect: e.term,
        size: e.effect,
        low: e.interval?.[0] ?? null,
        high: e.interval?.[1] ?? null,
        moved: e.interval ? (e.interval[0] * e.interval[1] > 0 ? 'yes' : 'not shown') : 'open',
        cannotBeToldFrom: e.aliases.join(', ') || '–',
      })),
    { effect: '', size: '', low: '', high: '', moved: '', cannotBeToldFrom: '' },
  )

function nextTable(
  factors: readonly { name: string; low: string; high: string }[],
  planned: readonly FactorialRun['levels'][],
): ResultTable {
  return tableOf(
    planned.map((levels, i) => ({
      trial: i + 1,
      levels: factors.map(f => (levels[f.name] === 1 ? '+' : '−')).join(''),
      ...Object.fromEntries(factors.map(f => [f.name, levels[f.name] === 1 ? f.high : f.low])),
    })),
    { trial: '1', levels: '', ...Object.fromEntries(factors.map(f => [f.name, ''])) },
  )
}

/** What cannot be told apart now, and what of that the next trials would. */
function aliasTable(
  now: readonly { term: string; aliases: string[] }[],
  after: readonly { term: string; aliases: string[] }[],
): ResultTable {
  const rows = now
    .filter(g => g.aliases.length > 0)
    .map(g => ({
      effect: g.term,
      together: g.aliases.join(', '),
      afterNext: after.find(a => a.term === g.term)?.aliases.join(', ') || 'resolved',
    }))
  return tableOf(rows, { effect: '', together: '', afterNext: '' })
}
