import * as z from 'zod'
import { quantity } from '../../method/settings'
import { solveBeam, type SolvedBeam } from '../../calc/strength/beam-solve'

const size = (title: string) => quantity('length', { title, positive: true })

const material = {
  modulus: quantity('pressure', { title: 'Modulus', positive: true }),
  strength: quantity('pressure', { title: 'Strength, bending', positive: true }),
  shearStrength: quantity('pressure', { title: 'Strength, shear', positive: true }),
  density: quantity('density', { title: 'Density', positive: true }),
}

/**
 * What is known of an arm fixed at its root: a section that may taper linearly to the tip, and its material.
 * `box`: caps and webs around a hollow; `tube`: round; `solid`: rectangular; `sandwich`: skins on a core that takes the
 * shear.
 */
export const staticArticle = z.discriminatedUnion('section', [
  z.object({
    section: z.literal('box'),
    length: size('Length'),
    width: size('Width'),
    rootHeight: size('Height at the root'),
    tipHeight: size('Height at the tip'),
    capThickness: size('Cap thickness'),
    webThickness: size('Web thickness'),
    ...material,
  }),
  z.object({
    section: z.literal('tube'),
    length: size('Length'),
    rootDiameter: size('Diameter at the root'),
    tipDiameter: size('Diameter at the tip'),
    wallThickness: size('Wall thickness'),
    ...material,
  }),
  z.object({
    section: z.literal('solid'),
    length: size('Length'),
    width: size('Width'),
    rootHeight: size('Height at the root'),
    tipHeight: size('Height at the tip'),
    ...material,
  }),
  z.object({
    section: z.literal('sandwich'),
    length: size('Length'),
    width: size('Width'),
    rootHeight: size('Height at the root'),
    tipHeight: size('Height at the tip'),
    skinThickness: size('Skin thickness'),
    modulus: quantity('pressure', { title: 'Modulus of the skins', positive: true }),
    strength: quantity('pressure', { title: 'Strength of the skins', positive: true }),
    density: quantity('density', { title: 'Density of the skins', positive: true }),
    coreModulus: quantity('pressure', { title: 'Modulus of the core', positive: true }),
    coreShearModulus: quantity('pressure', { title: 'Shear modulus of the core', positive: true }),
    coreShearStrength: quantity('pressure', { title: 'Strength of the core, shear', positive: true }),
    coreDensity: quantity('density', { title: 'Density of the core', positive: true }),
  }),
])

export type StaticArticle = z.output<typeof staticArticle>
export type StaticArticleInput = z.input<typeof staticArticle>

export interface Section {
  /** Second moment of area, m⁴. */
  inertia: number
  /** m² */
  area: number
  /** Outermost fibre from the neutral axis, and the whole depth, m. */
  fibre: number
  depth: number
  /** Largest shear stress per newton of shear force, 1/m². */
  shearPerForce: number
  /** Shear force per radian that it shears, N; none where it hardly does. */
  shearStiffness?: number
}

/**
 * The section at x from the root. @source Timoshenko & Gere, Mechanics of Materials, ch. 5 (flexure and shear formulas)
 */
export function sectionAt(a: StaticArticle, x: number): Section {
  const taper = (root: number, tip: number) => root + (tip - root) * (x / a.length)
  switch (a.section) {
    case 'box': {
      const [h, b, tc, tw] = [taper(a.rootHeight, a.tipHeight), a.width, a.capThickness, a.webThickness]
      const [hi, bi] = [Math.max(0, h - 2 * tc), Math.max(0, b - 2 * tw)]
      const inertia = (b * h ** 3 - bi * hi ** 3) / 12
      const firstMoment = (b * tc * (h - tc)) / 2 + tw * (hi / 2) ** 2
      return { inertia, area: b * h - bi * hi, fibre: h / 2, depth: h, shearPerForce: firstMoment / (inertia * 2 * tw) }
    }
    case 'tube': {
      const D = taper(a.rootDiameter, a.tipDiameter)
      const d = Math.max(0, D - 2 * a.wallThickness)
      const inertia = (Math.PI * (D ** 4 - d ** 4)) / 64
      return {
        inertia,
        area: (Math.PI * (D ** 2 - d ** 2)) / 4,
        fibre: D / 2,
        depth: D,
        shearPerForce: (D ** 3 - d ** 3) / 12 / (inertia * 2 * a.wallThickness),
      }
    }
    case 'solid': {
      const h = taper(a.rootHeight, a.tipHeight)
      const area = a.width * h
      return { inertia: (a.width * h ** 3) / 12, area, fibre: h / 2, depth: h, shearPerForce: 1.5 / area }
    }
    case 'sandwich': {
      const h = taper(a.rootHeight, a.tipHeight)
      const core = Math.max(1e-9, h - 2 * a.skinThickness)
      const between = h - a.skinThickness
      return {
        inertia: (a.width * (h ** 3 - core ** 3)) / 12,
        area: 2 * a.width * a.skinThickness,
        fibre: h / 2,
        depth: h,
        shearPerForce: 1 / (a.width * between),
        shearStiffness: (a.coreShearModulus * a.width * between ** 2) / core,
      }
    }
  }
}

/** How the test load goes in: shares of the total at places along the arm. */
export interface LoadShare {
  x: number
  share: number
}

export type FailureMode = 'bending' | 'shear' | 'wrinkling' | 'core shear'

export interface ArmPrediction {
  /** Deflection where it is measured per newton of total load, m/N. */
  compliance: number
  /** Total load at which the first stress reaches its strength, N; where, m; and how. */
  failureLoad: number
  failurePlace: number
  failureMode: FailureMode
  /** Of the section alone, kg. */
  mass: number
  /** Deflection per newton, at x. */
  deflectionPerForce(x: number): number
  /** Bending strain of the outer fibre per newton, at x. */
  strainPerForce(x: number): number
}

const PIECES = 60

/** How the article is held: its root fixed, or both ends on supports. */
export type Support = 'root' | 'both ends'

/**
 * The beam calculation of an article: linear, section constant over each of 60 pieces; a root is ideally stiff.
 *
 * @param loads  N at m from the start
 */
export function bendArm(
  a: StaticArticle,
  loads: readonly { x: number; force: number }[],
  support: Support,
): SolvedBeam {
  const edge = (i: number) => (a.length * i) / PIECES
  const solved = solveBeam({
    support: support === 'root' ? 'cantilever' : 'simple',
    length: a.length,
    distributed: [],
    bendingStiffness: Array.from({ length: PIECES }, (_, i) => ({
      to: i === PIECES - 1 ? a.length : edge(i + 1),
      value: a.modulus * sectionAt(a, (edge(i) + edge(i + 1)) / 2).inertia,
    })),
    points: loads.map(l => ({ x: Math.min(l.x, a.length), force: l.force })),
  })
  return a.section === 'sandwich' ? withShear(a, solved, support) : solved
}

/** What a core that shears adds to the deflection. @source Allen (1969), Analysis and Design of Sandwich Panels */
function withShear(a: StaticArticle, solved: SolvedBeam, support: Support): SolvedBeam {
  const dx = a.length / PIECES
  const way = new Float64Array(PIECES + 1)
  for (let i = 0; i < PIECES; i++) {
    const x = (i + 0.5) * dx
    way[i + 1] = way[i]! + (dx * solved.at(x).shear) / sectionAt(a, x).shearStiffness!
  }
  const added = (x: number): number => {
    const i = Math.min(PIECES - 1, Math.floor(x / dx))
    const here = way[i]! + ((x - i * dx) / dx) * (way[i + 1]! - way[i]!)
    return support === 'root' ? here : here - (x / a.length) * way[PIECES]!
  }
  return { ...solved, at: x => (at => ({ ...at, deflection: at.deflection + added(x) }))(solved.at(x)) }
}

/**
 * What the beam calculation expects of an article under shares of a load.
 *
 * @param loads  shares that add up to 1
 * @param deflectionAt  where deflection is read, m from the start
 */
export function predictArm(
  a: StaticArticle,
  loads: readonly LoadShare[],
  deflectionAt: number,
  support: Support = 'root',
): ArmPrediction {
  const L = a.length
  const solved = bendArm(
    a,
    loads.map(l => ({ x: l.x, force: l.share })),
    support,
  )
  const weakest = weakestPlace(
    a,
    x => solved.at(x),
    loads.map(l => Math.min(l.x, L)),
  )
  const middle = (i: number) => sectionAt(a, (L * (i + 0.5)) / PIECES)
  return {
    compliance: solved.at(Math.min(deflectionAt, L)).deflection,
    ...weakest,
    mass: Array.from({ length: PIECES }, (_, i) => linearMass(a, middle(i)) * (L / PIECES)).reduce((s, m) => s + m, 0),
    deflectionPerForce: x => solved.at(x).deflection,
    strainPerForce: x => {
      const { inertia, fibre } = sectionAt(a, x)
      return (solved.at(x).moment * fibre) / (a.modulus * inertia)
    },
  }
}

/** kg/m */
const linearMass = (a: StaticArticle, { area, depth }: Section): number =>
  a.density * area + (a.section === 'sandwich' ? a.coreDensity * a.width * (depth - 2 * a.skinThickness) : 0)

type Weakest = Pick<ArmPrediction, 'failureLoad' | 'failurePlace' | 'failureMode'>

/**
 * Where the first stress reaches its strength, and at which load: looked for at the loads, on either side of them, and
 * between.
 *
 * @param loads  places of the loads, m: the moment has its kinks there, the shear its steps
 */
export function weakestPlace(
  a: StaticArticle,
  at: (x: number) => { moment: number; shear: number },
  loads: readonly number[],
): Weakest {
  const beside = loads.flatMap(x => [x - BESIDE * a.length, x, x + BESIDE * a.length])
  const grid = Array.from({ length: PIECES + 1 }, (_, i) => (a.length * i) / PIECES)
  const places = [...new Set([...grid, ...beside])].filter(x => x >= 0 && x <= a.length).sort((p, q) => p - q)
  const modes = modesOf(a)
  let weakest: Weakest = { failureLoad: Infinity, failurePlace: 0, failureMode: 'bending' }
  const weigh = (failureMode: Weakest['failureMode'], x: number) => {
    const failureLoad = modes[failureMode]!(a, at(x), x)
    if (failureLoad < weakest.failureLoad * (1 - 1e-9)) weakest = { failureLoad, failurePlace: x, failureMode }
  }
  for (const x of places) for (const mode of Object.keys(modes) as FailureMode[]) weigh(mode, x)
  // Between its neighbours the least may lie a little beside the place that was looked at.
  const found = places.indexOf(weakest.failurePlace)
  const mode = weakest.failureMode
  for (const [from, to] of [
    [places[found - 1], places[found]],
    [places[found], places[found + 1]],
  ])
    if (from !== undefined && to !== undefined)
      weigh(
        mode,
        leastBetween(x => modes[mode]!(a, at(x), x), from, to),
      )
  return weakest
}

/** So much of the length beside a load counts as its other side. */
const BESIDE = 1e-9

type ModeAt = (a: StaticArticle, inner: { moment: number; shear: number }, x: number) => number

/** Ways in which a section gives way, each with the load at which it does. */
const modesOf = (a: StaticArticle): Partial<Record<FailureMode, ModeAt>> =>
  a.section === 'sandwich'
    ? { bending: bendingAt, wrinkling: wrinklingAt, 'core shear': shearAt }
    : { bending: bendingAt, shear: shearAt }

const underStress = (a: StaticArticle, stress: number, moment: number, x: number): number => {
  const { inertia, fibre } = sectionAt(a, x)
  return (stress * inertia) / (Math.abs(moment) * fibre)
}
const bendingAt: ModeAt = (a, { moment }, x) => underStress(a, a.strength, moment, x)
const shearAt: ModeAt = (a, { shear }, x) =>
  (a.section === 'sandwich' ? a.coreShearStrength : a.shearStrength) / (Math.abs(shear) * sectionAt(a, x).shearPerForce)

/** A skin in compression wrinkles into or off its core. @source Hoff & Mautner (1945), with the coefficient 0.5 */
const wrinklingAt: ModeAt = (a, { moment }, x) =>
  a.section === 'sandwich'
    ? underStress(a, 0.5 * Math.cbrt(a.modulus * a.coreModulus * a.coreShearModulus), moment, x)
    : Infinity

const GOLDEN = (Math.sqrt(5) - 1) / 2

/** Where a function with one valley is least, by golden section. */
function leastBetween(f: (x: number) => number, from: number, to: number): number {
  let [a, b] = [from, to]
  for (let i = 0; i < 40; i++) {
    const [p, q] = [b - GOLDEN * (b - a), a + GOLDEN * (b - a)]
    if (f(p) <= f(q)) b = q
    else a = p
  }
  return (a + b) / 2
}
