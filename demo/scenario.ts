/* The made-up campaign: Varnholt Ropeway Works builds the Tarn carrier. All names and numbers are invented. */

const mm = (value: number) => ({ value, unit: 'mm' })
const kN = (value: number) => ({ value, unit: 'kN' })
const s = (value: number) => ({ value, unit: 's' })
const laminate = { modulus: { value: 58, unit: 'GPa' }, strength: { value: 420, unit: 'MPa' }, shearStrength: { value: 60, unit: 'MPa' }, density: 1550 }
const arm = { section: 'box', length: { value: 2.1, unit: 'm' }, width: mm(80), rootHeight: mm(120), tipHeight: mm(70), ...laminate }

export const campaign = {
  title: 'Tarn carrier',
  purpose: 'Show that the cabin’s hanger arm is strong and stiff enough before the season opens.',
  weeksToDue: 11,
  materials: [
    { name: 'Stiffer carbon weave', modulus: { value: 74, unit: 'GPa' }, strength: { value: 400, unit: 'MPa' }, shearStrength: { value: 58, unit: 'MPa' }, density: 1560, leadTimeDays: 28 },
    { name: 'Glass weave', modulus: { value: 23, unit: 'GPa' }, strength: { value: 310, unit: 'MPa' }, shearStrength: { value: 45, unit: 'MPa' }, density: 1850, leadTimeDays: 6 },
  ],
}

export const article = { name: 'Hanger arm', family: 'static', note: 'Tapered carbon box, 2.1 m: carries the cabin from the rope carriage.' }

export const limits = [
  { name: 'Ultimate load', quantity: 'maxLoad', comparator: 'atLeast', level: 'ultimate', entered: kN(4.8), source: '1.5 × the limit load of 3.2 kN' },
  { name: 'Service deflection', quantity: 'deflectionAtDesign', comparator: 'atMost', level: 'service', entered: mm(82), source: 'Cabin floor clears the hut’s platform' },
  { name: 'Permanent set', quantity: 'permanentSet', comparator: 'atMost', level: 'limit', entered: mm(1.0), source: 'Carriage alignment after the proof load' },
] as const

/** Sensors by a short name, as the plans refer to them. */
export const sensors = {
  cellHired: { name: 'Load cell LC-11 (hired)', kind: 'force', specification: { fullScale: { value: 2000, unit: 'lbf' }, certificate: { U: { value: 6, unit: 'lbf' }, k: 2 }, linearity: 0.001, hysteresis: 0.0008, repeatability: 0.0005 } },
  cell: { name: 'Load cell LC-04', kind: 'force', specification: { fullScale: kN(10), certificate: { U: { value: 12, unit: 'N' }, k: 2 }, linearity: 0.0005, hysteresis: 0.0005, repeatability: 0.0003 } },
  wireHired: { name: 'Draw-wire W-7 (hired)', kind: 'length', specification: { fullScale: { value: 10, unit: 'in' }, certificate: { U: { value: 0.01, unit: 'in' }, k: 2 }, linearity: 0.001, repeatability: 0.0005, hysteresis: 0.0005 } },
  wire: { name: 'Draw-wire W-2', kind: 'length', specification: { fullScale: mm(250), certificate: { U: mm(0.1), k: 2 }, linearity: 0.0008, repeatability: 0.0003, hysteresis: 0.0003, resolution: mm(0.02) } },
  gauge: { name: 'Strain gauge pair RC-1', kind: 'strain', specification: { fullScale: { value: 8000, unit: 'µε' }, certificate: { U: { value: 20, unit: 'µε' }, k: 2 } } },
  dial: { name: 'Dial gauge D-3', kind: 'length', specification: { fullScale: mm(10), resolution: mm(0.01), repeatability: 0.001 } },
} as const

export type SensorName = keyof typeof sensors

const ladder = [0, 0.8, 1.6, 2.4, 3.2, 0, 4.0, 4.8, 5.6, 0]

export function planWith(load: SensorName, deflection: SensorName, more: { role: string; label: string; kind: string; x?: { value: number; unit: string }; expected?: { value: number; unit: string }; sensor: SensorName }[]) {
  return {
    designLoad: kN(3.2),
    loads: [{ x: { value: 2.1, unit: 'm' }, share: 0.8 }, { x: { value: 1.1, unit: 'm' }, share: 0.2 }],
    deflectionAt: { value: 2.1, unit: 'm' },
    rungs: ladder.map((target, i) => ({ target: kN(target), hold: s(i === ladder.length - 1 ? 60 : target === 0 ? 24 : 20) })),
    ramp: s(12), rate: { value: 10, unit: 'Hz' }, minHold: s(12), holdTolerance: { value: 25, unit: 'N' }, predictionBand: 0.1,
    channels: [{ role: 'load', label: 'Load at the hook', kind: 'force', sensor: load }, { role: 'deflection', label: 'Tip deflection', kind: 'length', sensor: deflection }, ...more],
  }
}

const rootStrain = { role: 'strainRoot', label: 'Root cap strain', kind: 'strain', x: mm(150), sensor: 'gauge' as const }
const frame = { role: 'frame', label: 'Frame motion', kind: 'length', expected: mm(4), sensor: 'dial' as const }

export const revisions = [
  {
    label: 'A', changed: '', why: 'First build', mass: 3.52,
    properties: { ...arm, capThickness: mm(3.75), webThickness: mm(2) },
    test: {
      title: 'Ladder to ultimate load', plan: planWith('cellHired', 'wireHired', [rootStrain]), file: 'hanger-arm-a.csv', end: 'fixture gave way',
      judgement: { validity: 'valid-with-remarks', cause: 'fixture', place: 'Root clamp, lower jaw', mode: 'Clamp insert sheared', note: 'The arm itself shows no damage; what it carried is a lower bound.' },
    },
  },
  {
    label: 'B', changed: 'caps 3.75 → 3.0 mm, webs 2.0 → 2.5 mm, clamp jaws radiused', why: 'Clamp insert sheared in the test of A; the arm was over its mass target', mass: 3.21,
    properties: { ...arm, capThickness: mm(3), webThickness: mm(2.5) },
    test: {
      title: 'Ladder to ultimate load, new clamp', plan: planWith('cell', 'wire', [rootStrain, frame]), file: 'hanger-arm-b.csv', end: 'ladder done',
      /** A second logger, its clock set by what both recorded; its twin of the root gauge is watched. */
      joined: { file: 'hanger-arm-b-fast.csv', clockOffset: 4, twin: { of: 'strainRoot', column: 'DMS root twin [µε]', tolerance: 30e-6 } },
      judgement: { validity: 'valid', cause: 'none', place: '', mode: '', note: 'No sound, no visible damage at 5.6 kN.' },
    },
  },
] as const

/** What the simulated articles really do; the files in data/ are made of this. */
export const truths = {
  A: { compliance: 2.395e-5, articleStrength: 8300, fixtureStrength: 4360, creepShare: 0.012, creepTime: 8, setAtStrength: 0.0035, loadOffset: 38, deflectionOffset: 0.0061, loadNoise: 3, deflectionNoise: 6e-5, strainNoise: 1.5e-6, seed: 20261 },
  B: { compliance: 2.763e-5, articleStrength: 8700, fixtureStrength: Infinity, creepShare: 0.012, creepTime: 8, setAtStrength: 0.0029, loadOffset: -21, deflectionOffset: 0.0023, loadNoise: 2.5, deflectionNoise: 4e-5, strainNoise: 1.5e-6, seed: 20262 },
}
