import * as z from 'zod'
import { decide } from '../../judge/decide'
import type { Result } from '../../method/reduction'
import { parseSettings, plain, quantity } from '../../method/settings'
import type { Advice, AdviceInput, AdviceLimit, Candidate, Change, Driver, Need } from '../../method/stages'
import type { Kind } from '../../quantity/index'
import { material } from '../../method/material'
import { predictArm, type ArmPrediction, type StaticArticle } from './article'
import type { StaticPlan } from './plan'

export const adviceSettings = z.object({
  /** Room wanted beyond each limit, after the uncertainty. */
  wantedMargin: plain({ title: 'Wanted margin', min: 0, max: 2 }).default(0.02),
  /** Thickness comes in steps (a ply, a gauge); sizes are rounded up to them. */
  wallStep: quantity('length', { title: 'Wall step', positive: true }).default(0.00025),
  /** Outer sizes are rounded up to this. */
  sizeStep: quantity('length', { title: 'Size step', positive: true }).default(0.001),
  minimumWall: quantity('length', { title: 'Thinnest wall', positive: true }).default(0.001),
})

/** Advice with its settings and materials parsed, and the plan reduced to what the calculation needs. */
interface Sizing extends Omit<AdviceInput<StaticPlan, StaticArticle>, 'settings' | 'materials'> {
  settings: z.output<typeof adviceSettings>
  materials: z.output<typeof material>[]
}

const DRIVER_OF: Record<string, Driver> = { deflectionAtDesign: 'stiffness', stiffness: 'stiffness', maxLoad: 'strength', loadFactor: 'strength', permanentSet: 'set', setRatio: 'set' }
const SCALING_DOUBT = 0.1
const WIDEST_SCALE = 4

/**
 * Changes that meet every limit at the wanted margin with the value's U inside, least mass first. The beam calculation
 * is scaled to the measurement: stiffness by measured/calculated, strength likewise (only as a lower bound where the
 * test gave one). Sizes are found by bisection on the calculation itself, so taper and section shape are in it;
 * a tenth of the logarithm of the change is added as doubt of the scaling.
 */
export function adviseStatic(raw: AdviceInput<StaticPlan, StaticArticle>): Advice {
  const given: Sizing = { ...raw, settings: parseSettings(adviceSettings, raw.settings), materials: parseSettings(z.array(material), raw.materials ?? [], 'materials') }
  const undemonstrated = given.limits.filter(l => isUndemonstrated(given.results[l.quantity], l))
  const input = { ...given, limits: given.limits.filter(l => !undemonstrated.includes(l)) }
  const base = armOf(input.article, input)
  const needs = needsOf(input)
  const driver = needs.reduce<Need | null>((worst, n) => (!worst || n.ratio > worst.ratio ? n : worst), null)
  const ideas = ideasFor(input)
  const sized = ideas.map(idea => ({ idea, candidate: size(idea, input, base) }))
  const changed = sized.filter(s => s.candidate && s.candidate.changes.length > 0)
  return {
    needs,
    driver,
    overDesigned: needs.length > 0 && needs.every(n => n.ratio < 1),
    calibration: calibrate(input, base),
    candidates: changed.map(s => s.candidate!).sort((a, b) => a.mass - b.mass),
    ruledOut: sized.filter(s => !s.candidate).map(s => ({ title: s.idea.title, reason: `does not meet every limit even at ${WIDEST_SCALE} times its size` })),
    undemonstrated,
  }
}

const armOf = (article: StaticArticle, { plan }: Sizing): ArmPrediction => predictArm(article, plan.loads, plan.deflectionAt)

const isUndemonstrated = (r: Result | undefined, { comparator, value }: AdviceLimit): boolean =>
  r !== undefined && r.bound !== 'exact' && decide(r, comparator, value, 'guarded').verdict === 'undecided'

const expanded = (r: Result): number => (r.u ?? 0) * (r.k ?? 2)

function needsOf({ limits, results, settings }: Sizing): Need[] {
  return limits.flatMap(limit => {
    const result = results[limit.quantity]
    const driver = DRIVER_OF[limit.quantity]
    if (!driver || !result || result.value === null || !(result.value > 0)) return []
    const wanted = 1 + settings.wantedMargin
    const U = expanded(result)
    const ratio = limit.comparator === 'atMost' ? ((result.value + U) * wanted) / limit.value : (limit.value * wanted) / Math.max(result.value - U, Number.MIN_VALUE)
    return [{ limit, driver, ratio }]
  })
}

function calibrate({ results }: Sizing, base: ArmPrediction): Advice['calibration'] {
  const stiffness = results['stiffness']?.value
  const maxLoad = results['maxLoad']
  return {
    stiffness: stiffness ? stiffness * base.compliance : 1,
    strength: maxLoad?.value ? maxLoad.value / base.failureLoad : 1,
    strengthBound: maxLoad?.bound ?? 'atLeast',
  }
}

/** A change with one free size; `apply` gives the article at that scale of it. */
interface Idea {
  id: string
  title: string
  apply(scale: number): StaticArticle
  leadTimeDays: number
  touches: string[]
}

function ideasFor({ article, materials, settings }: Sizing): Idea[] {
  const wall = (t: number, scale: number) => Math.max(settings.minimumWall, Math.ceil((t * scale) / settings.wallStep - 1e-9) * settings.wallStep)
  const outer = (d: number, scale: number) => Math.ceil((d * scale) / settings.sizeStep - 1e-9) * settings.sizeStep
  const walls = (a: StaticArticle, scale: number): StaticArticle =>
    a.section === 'box' ? { ...a, capThickness: wall(a.capThickness, scale) } : a.section === 'tube' ? { ...a, wallThickness: wall(a.wallThickness, scale) } : { ...a, rootHeight: outer(a.rootHeight, scale), tipHeight: outer(a.tipHeight, scale) }
  const ideas: Idea[] = materials.filter(m => m.modulus !== article.modulus || m.density !== article.density).map(m => ({
    id: `material:${m.name}`, title: `${m.name}, wall to suit`, leadTimeDays: m.leadTimeDays,
    apply: scale => walls({ ...article, modulus: m.modulus, strength: m.strength, shearStrength: m.shearStrength, density: m.density }, scale),
    touches: ['Coupon values of the new material', 'Cure and bonding process'],
  }))
  const own = (id: string, title: string, touches: string[], apply: Idea['apply']) => ideas.push({ id, title, apply, leadTimeDays: 0, touches })
  if (article.section === 'box') {
    own('caps', 'Cap thickness', ['Lay-up table of the caps'], scale => walls(article, scale))
    own('walls', 'Cap and web thickness together', ['Lay-up tables of caps and webs'], scale => ({ ...article, capThickness: wall(article.capThickness, scale), webThickness: wall(article.webThickness, scale) }))
    own('caps-webs', 'Caps for stiffness, webs thinned', ['Lay-up tables of caps and webs', 'Web buckling is not in this calculation: check it'], scale => ({ ...article, capThickness: wall(article.capThickness, scale), webThickness: wall(article.webThickness, 0.75) }))
    own('depth', 'Deeper section', ['Mould', 'Root clamp', 'Clearance around the arm'], scale => ({ ...article, rootHeight: outer(article.rootHeight, scale), tipHeight: outer(article.tipHeight, scale) }))
  } else if (article.section === 'tube') {
    own('wall', 'Wall thickness', ['Tube stock'], scale => walls(article, scale))
    own('diameter', 'Larger diameter', ['Root clamp', 'Tube stock'], scale => ({ ...article, rootDiameter: outer(article.rootDiameter, scale), tipDiameter: outer(article.tipDiameter, scale) }))
  } else own('height', 'Height of the section', ['Root clamp'], scale => walls(article, scale))
  return ideas
}

/** The smallest size of an idea that meets every limit, or null. Bisection, because every result improves with size. */
function size(idea: Idea, input: Sizing, base: ArmPrediction): Candidate | null {
  const meets = (scale: number) => meetsAll(predictResults(idea.apply(scale), input, base), input)
  let [low, high] = [0.1, WIDEST_SCALE]
  if (!meets(high)) return null
  for (let i = 0; i < 50; i++) {
    const middle = (low + high) / 2
    if (meets(middle)) high = middle
    else low = middle
  }
  return asCandidate(idea, idea.apply(high), input, base)
}

function meetsAll(predictions: Record<string, Result>, { limits, settings }: Sizing): boolean {
  return limits.every(({ quantity, comparator, value }) => {
    const p = predictions[quantity]
    if (!p || p.value === null) return true
    const wanted = 1 + settings.wantedMargin
    return comparator === 'atMost' ? (p.value + expanded(p)) * wanted <= value : p.value - expanded(p) >= value * wanted
  })
}

/** What the next revision would measure, scaled from what this one did. */
function predictResults(article: StaticArticle, input: Sizing, base: ArmPrediction): Record<string, Result> {
  const next = armOf(article, input)
  const compliance = next.compliance / base.compliance
  const strength = next.failureLoad / base.failureLoad
  const strain = (next.strainPerForce(0) || next.compliance) / (base.strainPerForce(0) || base.compliance)
  const ratios: Record<string, number> = { stiffness: 1 / compliance, deflectionAtDesign: compliance, maxLoad: strength, loadFactor: strength, permanentSet: strain, setRatio: strain / compliance }
  return Object.fromEntries(Object.entries(ratios).flatMap(([key, ratio]) => {
    const measured = input.results[key]
    if (!measured || measured.value === null) return []
    const value = measured.value * ratio
    const u = Math.hypot((measured.u ?? 0) * ratio, SCALING_DOUBT * Math.log(ratio) * value)
    return [[key, { value, unit: measured.unit, bound: measured.bound, u, k: measured.k ?? 2 } satisfies Result]]
  }))
}

function asCandidate(idea: Idea, article: StaticArticle, input: Sizing, base: ArmPrediction): Candidate {
  const predictions = predictResults(article, input, base)
  const sectionMass = armOf(article, input).mass
  const massChange = sectionMass - base.mass
  return {
    id: idea.id, title: idea.title, leadTimeDays: idea.leadTimeDays, touches: idea.touches,
    changes: changesBetween(input.article, article),
    mass: (input.mass ?? base.mass) + massChange, massChange, predictions,
    decisions: input.limits.flatMap(l => {
      const p = predictions[l.quantity]
      return p ? [{ limitId: l.id, decision: decide(p, l.comparator, l.value, input.rule) }] : []
    }),
  }
}

const PROPERTIES: Record<string, { label: string; kind: Kind }> = {
  capThickness: { label: 'Cap thickness', kind: 'length' }, webThickness: { label: 'Web thickness', kind: 'length' }, wallThickness: { label: 'Wall thickness', kind: 'length' },
  rootHeight: { label: 'Height at the root', kind: 'length' }, tipHeight: { label: 'Height at the tip', kind: 'length' },
  rootDiameter: { label: 'Diameter at the root', kind: 'length' }, tipDiameter: { label: 'Diameter at the tip', kind: 'length' },
  modulus: { label: 'Modulus', kind: 'pressure' }, strength: { label: 'Strength, bending', kind: 'pressure' }, shearStrength: { label: 'Strength, shear', kind: 'pressure' }, density: { label: 'Density', kind: 'density' },
}

function changesBetween(from: StaticArticle, to: StaticArticle): Change[] {
  const [a, b] = [from as unknown as Record<string, number>, to as unknown as Record<string, number>]
  return Object.entries(PROPERTIES).flatMap(([property, p]) => (a[property] !== undefined && Math.abs(b[property]! / a[property]! - 1) > 1e-9 ? [{ property, ...p, from: a[property]!, to: b[property]! }] : []))
}
