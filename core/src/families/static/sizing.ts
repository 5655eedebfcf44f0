import * as z from 'zod'
import type { FamilySizing, OwnSizingInput } from '../../advise/sizing'
import type { Path } from '../../advise/candidates'
import { beyond, BEYOND, REACH, type Dimension, type Scaled, type Sizes, type SizingModel } from '../../advise/model'
import { madeOf } from '../../advise/made'
import { parseSettings } from '../../method/settings'
import { writeFact, type Fact } from '../../register/facts'
import type { Kind } from '../../quantity/index'
import { material } from '../../method/material'
import { predictArm, staticArticle, type ArmPrediction, type StaticArticle } from './article'
import type { StaticPlan } from './plan'

type Input = OwnSizingInput<StaticPlan, StaticArticle>

/** Usual steps of a wall (a ply, a gauge) and of an outer size, and the thinnest wall. */
const WALL = { step: 0.00025, lowest: 0.001 }
const OUTER = { step: 0.001 }

/** Standard uncertainty of the scaling, as a share of the logarithm by which a result moves. */
const DOUBT = 0.1
const KNOWN = 2
const THINNEST = 0.1

interface Size {
  key: string
  label: string
  usual: { step: number; lowest?: number }
  touches: string[]
}
const SIZES: Record<StaticArticle['section'], Size[]> = {
  box: [
    { key: 'capThickness', label: 'Cap thickness', usual: WALL, touches: ['Lay-up table of the caps'] },
    {
      key: 'webThickness',
      label: 'Web thickness',
      usual: WALL,
      touches: ['Lay-up table of the webs', 'Web buckling is not in this calculation: check it'],
    },
    { key: 'rootHeight', label: 'Height at the root', usual: OUTER, touches: ['Mould', 'Root clamp'] },
    { key: 'tipHeight', label: 'Height at the tip', usual: OUTER, touches: ['Mould', 'Clearance around the arm'] },
  ],
  tube: [
    { key: 'wallThickness', label: 'Wall thickness', usual: WALL, touches: ['Tube stock'] },
    { key: 'rootDiameter', label: 'Diameter at the root', usual: OUTER, touches: ['Root clamp', 'Tube stock'] },
    { key: 'tipDiameter', label: 'Diameter at the tip', usual: OUTER, touches: ['Tube stock'] },
  ],
  solid: [
    { key: 'rootHeight', label: 'Height at the root', usual: OUTER, touches: ['Root clamp'] },
    { key: 'tipHeight', label: 'Height at the tip', usual: OUTER, touches: [] },
    { key: 'width', label: 'Width', usual: OUTER, touches: ['Root clamp'] },
  ],
  sandwich: [
    {
      key: 'skinThickness',
      label: 'Skin thickness',
      usual: { ...WALL, lowest: 0.0002 },
      touches: ['Lay-up table of the skins'],
    },
    { key: 'rootHeight', label: 'Height at the root', usual: OUTER, touches: ['Core stock', 'Root clamp'] },
    { key: 'tipHeight', label: 'Height at the tip', usual: OUTER, touches: ['Core stock'] },
    { key: 'width', label: 'Width', usual: OUTER, touches: ['Root clamp'] },
  ],
}

const MATERIAL: Record<string, { label: string; kind: Kind }> = {
  modulus: { label: 'Modulus', kind: 'pressure' },
  strength: { label: 'Strength, bending', kind: 'pressure' },
  shearStrength: { label: 'Strength, shear', kind: 'pressure' },
  density: { label: 'Density', kind: 'density' },
}

const armOf = (article: StaticArticle, { plan }: Pick<Input, 'plan'>): ArmPrediction =>
  predictArm(article, plan.loads, plan.deflectionAt ?? article.length, plan.support)
const valueOf = (article: StaticArticle, key: string): number => (article as unknown as Record<string, number>)[key]!

/** What the beam calculation says of every result of one article against another's. */
function ratiosOf(next: ArmPrediction, base: ArmPrediction): Record<string, number> {
  const compliance = next.compliance / base.compliance
  const strength = next.failureLoad / base.failureLoad
  const strain = (next.strainPerForce(0) || next.compliance) / (base.strainPerForce(0) || base.compliance)
  return {
    stiffness: 1 / compliance,
    deflectionAtDesign: compliance,
    maxLoad: strength,
    loadFactor: strength,
    permanentSet: strain,
    setRatio: strain / compliance,
  }
}

/**
 * The beam calculation as a scale from what was measured: taper and section shape are in it. A tenth of the logarithm
 * of
 * each ratio is its doubt, or more where the revisions before were scaled worse than that.
 */
function staticModel(input: Input): SizingModel {
  const { article } = input
  const base = armOf(article, input)
  const sizes = SIZES[article.section]
  const dimensions = sizes.map((s): Dimension => {
    const { lowest, highest, ...made } = madeOf(input.rules, s.key, 'length', s.usual)
    const value = valueOf(article, s.key)
    return {
      ...made,
      key: s.key,
      label: s.label,
      kind: 'length',
      value,
      touches: s.touches,
      known: [value / KNOWN, value * KNOWN],
      reach: [Math.max(lowest ?? 0, value * THINNEST), highest ?? value * REACH],
    }
  })
  const { doubt, notes } = howWellItScaled(input, base)
  // A search comes by the same sizes more than once.
  const seen = new Map<string, ArmPrediction>()
  const armAt = (at: Sizes): ArmPrediction => {
    const next = { ...article, ...at } as StaticArticle
    const key = JSON.stringify(next)
    const arm = seen.get(key) ?? armOf(next, input)
    seen.set(key, arm)
    return arm
  }
  return {
    dimensions,
    bases: {},
    laws: [],
    notes: [...calibration(input, base), ...notes],
    properties: {
      ...Object.fromEntries(dimensions.map(d => [d.key, { label: d.label, kind: d.kind, value: d.value }])),
      ...Object.fromEntries(
        Object.entries(MATERIAL).flatMap(([key, m]) =>
          valueOf(article, key) === undefined ? [] : [[key, { ...m, value: valueOf(article, key) }]],
        ),
      ),
    },
    at: at => {
      const far = dimensions.reduce((sum, d) => Math.max(sum, beyond(d, at[d.key] ?? d.value)), 0)
      return Object.fromEntries(
        Object.entries(ratiosOf(armAt(at), base)).map(([key, ratio]): [string, Scaled] => [
          key,
          { ratio, doubt: doubt * (Math.abs(Math.log(ratio)) + BEYOND * far) },
        ]),
      )
    },
    massChange: at => armAt(at).mass - base.mass,
    wholeMass: base.mass,
  }
}

const percent = (ratio: number): string => `${ratio >= 1 ? '+' : '−'}${Math.abs(100 * (ratio - 1)).toFixed(1)}\u202f%`

/** Measured over calculated: what every candidate is scaled by. */
function calibration({ results }: Input, base: ArmPrediction): string[] {
  const stiffness = results['stiffness']?.value
  const load = results['maxLoad']
  const parts = [
    ...(stiffness ? [`stiffness ${(stiffness * base.compliance).toFixed(3)}`] : []),
    ...(load?.value
      ? [`strength ${load.bound === 'exact' ? '' : '≥ '}${(load.value / base.failureLoad).toFixed(3)}`]
      : []),
  ]
  return parts.length > 0
    ? [`Measured over calculated: ${parts.join(', ')}. Changes scale the beam calculation by these.`]
    : []
}

/** From earlier revisions to this one: what the calculation expected of the change, and what was measured. */
function howWellItScaled(input: Input, base: ArmPrediction): { doubt: number; notes: string[] } {
  const now = input.results['stiffness']
  let doubt = DOUBT
  const notes: string[] = []
  for (const r of input.history) {
    const other = fixtureChanges(r.facts, input.facts)
    if (other.length > 0) {
      notes.push(`What revision ${r.label} says of the scaling is not counted: ${other.join(', ')} changed as well.`)
      continue
    }
    const article = staticArticle.safeParse(r.properties)
    const then = r.results['stiffness']
    if (!article.success || !now?.value || !then?.value || then.bound !== 'exact') continue
    const expected = ratiosOf(base, armOf(article.data, input))['stiffness']!
    const measured = now.value / then.value
    if (Math.abs(Math.log(expected)) < 0.02) continue
    // What the readings themselves leave open is not the scaling’s.
    const unsure = Math.hypot((now.u ?? 0) / now.value, (then.u ?? 0) / then.value)
    const off = Math.max(0, Math.abs(Math.log(measured / expected)) - 2 * unsure) / Math.abs(Math.log(expected))
    doubt = Math.max(doubt, off)
    notes.push(
      `From revision ${r.label} the calculation expected ${percent(expected)} of stiffness, measured was ` +
        `${percent(measured)}.`,
    )
  }
  return {
    doubt,
    notes: [...notes, `The uncertainty of a scaling is ${doubt.toFixed(2)} of the logarithm by which a result moves.`],
  }
}

/** A changed fixture is a new set-up: what moved then is not the article alone. */
function fixtureChanges(before: readonly Fact[], now: readonly Fact[]): string[] {
  const of = (facts: readonly Fact[]) =>
    new Map(facts.filter(f => f.group === 'Fixture').map(f => [f.name, writeFact(f.value)]))
  const [a, b] = [of(before), of(now)]
  return [...new Set([...a.keys(), ...b.keys()])].filter(name => a.get(name) !== b.get(name))
}

function staticPaths(input: Input): Path[] {
  const { article } = input
  const wall = { box: 'capThickness', tube: 'wallThickness', solid: 'rootHeight', sandwich: 'skinThickness' }[
    article.section
  ]
  const walls = article.section === 'solid' ? ['rootHeight', 'tipHeight'] : [wall]
  const materials = parseSettings(z.array(material), input.materials, 'materials')
  const others = materials
    .filter(m => m.modulus !== article.modulus || m.density !== article.density)
    .map((m): Path => ({
      id: `material:${m.name}`,
      title: `${m.name}, ${article.section === 'solid' ? 'height' : 'wall'} to suit`,
      free: walls,
      leadTimeDays: m.leadTimeDays,
      cost: m.cost ?? null,
      set: {
        modulus: m.modulus,
        strength: m.strength,
        density: m.density,
        ...(article.section === 'sandwich' ? {} : { shearStrength: m.shearStrength }),
      },
      evidence: m.evidence ?? [],
      touches: ['Coupon values of the new material', 'Cure and bonding process'],
    }))
  const own: Path[] =
    article.section === 'box'
      ? [
          { id: 'caps', title: 'Cap thickness', free: ['capThickness'] },
          { id: 'walls', title: 'Cap and web thickness together', free: ['capThickness', 'webThickness'] },
          { id: 'caps-webs', title: 'Caps for stiffness, webs to suit', free: ['capThickness'], tried: 'webThickness' },
          { id: 'depth', title: 'Deeper section', free: ['rootHeight', 'tipHeight'] },
        ]
      : article.section === 'tube'
        ? [
            { id: 'wall', title: 'Wall thickness', free: ['wallThickness'] },
            { id: 'diameter', title: 'Larger diameter', free: ['rootDiameter', 'tipDiameter'] },
            {
              id: 'diameter-wall',
              title: 'Larger diameter, wall to suit',
              free: ['rootDiameter', 'tipDiameter'],
              tried: 'wallThickness',
            },
          ]
        : [
            ...(article.section === 'sandwich'
              ? [
                  { id: 'skins', title: 'Skin thickness', free: ['skinThickness'] },
                  {
                    id: 'skins-core',
                    title: 'Deeper core, skins to suit',
                    free: ['rootHeight', 'tipHeight'],
                    tried: 'skinThickness',
                  },
                ]
              : []),
            { id: 'height', title: 'Height of the section', free: ['rootHeight', 'tipHeight'] },
            { id: 'width', title: 'Width', free: ['width'] },
          ]
  return [...own, ...others]
}

export const staticSizing: FamilySizing<StaticPlan, StaticArticle> = { model: staticModel, paths: staticPaths }
