import type { ResultDeclaration } from '../method/define'
import type { Kind } from '../quantity/index'
import { families } from '../registry'
import type { NeededChannel } from '../plan/plan'
import type { LoadingKind } from '../plan/loading/index'
import type { Planning } from '../plan/planning'

/** What can be said of a kind of test before it is run: enough for articles, revisions, limits and predictions. */
export interface FamilyOutline {
  id: string
  title: string
  results: Record<string, ResultDeclaration>
  /** Curves that predictions may be given as: measured over commanded axes, SI. */
  curves: Record<string, CurveOutline>
  /** Whether tests of it can be run and reduced here; every kind can be planned. */
  testable: boolean
}

export interface CurveOutline {
  title: string
  x: { label: string; kind: Kind }
  y: { label: string; kind: Kind }
}

type Results = Record<string, ResultDeclaration>
const atLeast = (label: string, kind: Kind): ResultDeclaration => ({ label, kind, limited: 'atLeast' })
const atMost = (label: string, kind: Kind): ResultDeclaration => ({ label, kind, limited: 'atMost' })
const free = (label: string, kind: Kind): ResultDeclaration => ({ label, kind })

/** How a kind of test is planned: ways of loading, channels it needs, what is read against the ladder, results that are readings. */
const planned = (loadings: LoadingKind[], needed: NeededChannel[], read: string | null, readBy: Record<string, string> = {}, ...setUp: [text: string, why: string][]): Planning => ({
  loadings, needed, readBy, own: null, read: needed.filter(n => n.role === read).map(({ role, kind }) => ({ role, kind }))[0] ?? null,
  setUp: setUp.map(([text, why], i) => ({ key: `set-up:${i}`, text, why })),
})
const channel = (role: string, label: string, kind: Kind): NeededChannel => ({ role, label, kind })
const force = channel('force', 'Force', 'force')

const PLANNING: Record<string, Planning> = {
  buckling: planned(['pull', 'direct'], [force, channel('deflection', 'Deflection', 'length')], 'deflection', { peakForce: 'force' }, ['Ends bedded, axis plumb, first dents marked', 'A shell knows how it was set down.']),
  spin: planned(['setpoints', 'direct'], [channel('thrust', 'Thrust', 'force'), channel('voltage', 'Voltage', 'voltage'), channel('current', 'Current', 'current'), channel('speed', 'Speed', 'rotation')], 'thrust', { maxThrust: 'thrust' }, ['Rotor turned by hand, bolts marked', 'What is loose shows at the first set-point.']),
  torque: planned(['torque', 'direct'], [channel('torque', 'Torque', 'torque'), channel('twist', 'Twist', 'angle')], 'twist', { yieldTorque: 'torque', ultimateTorque: 'torque' }, ['Couplings in line, keys and bolts marked', 'A crooked coupling breaks first.']),
  vibration: planned(['shaker', 'direct'], [channel('drive', 'Drive', 'acceleration'), channel('response', 'Response', 'acceleration')], 'response', {}, ['Bolts marked and torqued, signature taken before', 'What was loose before is not known after.']),
  bar: planned(['direct'], [channel('incident', 'Incident bar', 'strain'), channel('transmitted', 'Transmitted bar', 'strain')], 'incident', {}, ['Bars in line, faces greased, striker runs free', 'A step between bars reflects.']),
  transducer: planned(['direct'], [channel('magnitude', 'Impedance', 'resistance'), channel('phase', 'Phase', 'angle')], 'magnitude', {}, ['Cable open and shorted for its own capacity', 'A cable counts as element.']),
  coupon: planned(['pull', 'direct'], [force, channel('strain', 'Strain', 'strain')], 'strain', {}, ['Width and thickness of every coupon measured', 'A strength is a force over them.']),
  thermal: planned(['direct'], [channel('temperature', 'Temperature', 'temperature'), channel('power', 'Power', 'power')], 'temperature', { steadyTemperature: 'temperature' }, ['Ambient read away from the article, draughts kept off', 'A rise counts from the ambient.']),
}

export const announcedPlanning = (family: string): Planning | null => PLANNING[family] ?? null

/** Kinds of test whose articles, limits, predictions and plans are kept, and whose reduction is not here yet. */
const ANNOUNCED: Record<string, { title: string; results: Results }> = {
  buckling: { title: 'Buckling', results: { peakForce: atLeast('Buckling force', 'force'), knockdown: atLeast('Knockdown factor', 'ratio'), southwellForce: atLeast('Southwell force', 'force'), onsetForce: atLeast('Onset of bending', 'force'), maxLineLoad: atLeast('Largest line load', 'loadPerLength') } },
  spin: { title: 'Spin', results: { maxThrust: atLeast('Largest thrust', 'force'), maxElectricalPower: atMost('Electrical power', 'power'), maxEfficiency: atLeast('Best efficiency', 'ratio') } },
  thermal: { title: 'Thermal', results: { steadyTemperature: atMost('Steady temperature', 'temperature'), timeConstant: atLeast('Time constant', 'time'), allowedPower: atLeast('Allowed power', 'power') } },
  torque: { title: 'Torque', results: { yieldTorque: atLeast('Yield torque', 'torque'), ultimateTorque: atLeast('Ultimate torque', 'torque'), stiffness: atLeast('Torsional stiffness', 'torque'), factor: atLeast('Torque factor', 'ratio') } },
  vibration: { title: 'Vibration', results: { firstFrequency: atLeast('First mode', 'frequency'), firstDamping: atLeast('Damping of the first mode', 'ratio'), firstAmplitude: atMost('Amplification of the first mode', 'ratio') } },
  bar: { title: 'High-rate bar', results: { peakStress: atLeast('Peak stress', 'pressure'), strainAtPeak: atLeast('Strain at the peak', 'strain'), meanRate: atLeast('Mean strain rate', 'sweepRate'), equilibrium: atMost('Out of equilibrium', 'ratio') } },
  transducer: { title: 'Transducer', results: { coupling: atLeast('Coupling factor', 'ratio'), seriesFrequency: free('Series resonance', 'frequency'), qualityFactor: atLeast('Quality factor', 'ratio'), staticCapacitance: atMost('Static capacitance', 'capacitance') } },
  coupon: { title: 'Coupon', results: { modulusMean: atLeast('Mean modulus', 'pressure'), strengthMean: atLeast('Mean strength', 'pressure'), basisB: atLeast('B-basis strength', 'pressure'), modulusCv: atMost('Spread of the modulus', 'ratio'), strengthCv: atMost('Spread of the strength', 'ratio') } },
}

const here: FamilyOutline[] = Object.values(families).map(f => ({ id: f!.id, title: f!.title, results: f!.results as Results, curves: f!.stages.curves, testable: true }))
const announced: FamilyOutline[] = Object.entries(ANNOUNCED).map(([id, f]) => ({ id, ...f, curves: {}, testable: false }))

export const familyOutlines: FamilyOutline[] = [...here, ...announced].sort((a, b) => Number(b.testable) - Number(a.testable) || a.title.localeCompare(b.title, 'en'))

export const outlineOf = (id: string): FamilyOutline | null => familyOutlines.find(f => f.id === id) ?? null
