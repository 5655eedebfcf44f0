/*
 * The other articles of the Tarn carrier: revisions, limits and predictions; their tests follow with their families.
 * Made up.
 */

type Q = { value: number; unit: string } | number
const q = (value: number, unit: string): Q => ({ value, unit })

export interface DemoRevision {
  label: string
  follows?: string
  changed?: string
  why?: string
  mass?: number
  facts: [group: string, name: string, value: Q | string][]
}

export interface DemoLimit {
  name: string
  quantity: string
  comparator: 'atLeast' | 'atMost'
  level: string
  entered: Q
  factor?: number
  convention?: string
  source: string
  verification?: string
  /** Of that revision and what follows it, alone. */
  from?: string
}

export interface DemoPrediction {
  revision: string
  quantity: string
  entered: Q
  band?: Q
  method: string
  source: string
  place?: string
  mode?: string
}

export interface DemoArticle {
  name: string
  family: string
  note: string
  features: string[]
  revisions: DemoRevision[]
  limits: DemoLimit[]
  predictions: DemoPrediction[]
}

const percent = (value: number): Q => ({ value, unit: '%' })

/** A half-fraction of four factors: the product of the first three sets the fourth. */
const SHAFTS = (
  [
    [-1, -1, -1],
    [1, -1, -1],
    [-1, 1, -1],
    [1, 1, -1],
    [-1, -1, 1],
    [1, -1, 1],
    [-1, 1, 1],
    [1, 1, 1],
  ] as const
).map(([fillet, steel, temper], i): DemoRevision => {
  const peened = fillet * steel * temper > 0
  return {
    label: `S${i + 1}`,
    ...(i === 0
      ? {}
      : {
          follows: 'S1',
          changed: [
            fillet > 0 ? 'fillet 3 mm' : '',
            steel > 0 ? 'alloy steel' : '',
            temper > 0 ? 'hard temper' : '',
            peened ? 'shot-peened' : 'as turned',
          ]
            .filter(Boolean)
            .join(', '),
        }),
    why: 'Half-fraction of four factors',
    mass: 2.4 + 0.02 * (fillet > 0 ? 1 : 0),
    facts: [
      ['Geometry', 'Shaft diameter', q(48, 'mm')],
      ['Geometry', 'Fillet radius', q(fillet > 0 ? 3 : 1.5, 'mm')],
      ['Material', 'Steel', steel > 0 ? 'alloy' : 'carbon'],
      ['Heat treatment', 'Temper', temper > 0 ? 'hard' : 'soft'],
      ['Surface', 'Shot-peening', peened ? 'peened' : 'as turned'],
    ],
  }
})

export const articles: DemoArticle[] = [
  {
    name: 'Haul strop',
    family: 'pull',
    note: 'Polyester sling between carriage and haul rope.',
    features: ['sewn', 'textile'],
    revisions: [
      {
        label: 'A',
        why: 'As bought',
        mass: 0.42,
        facts: [
          ['Material', 'Webbing', 'polyester'],
          ['Geometry', 'Webbing width', q(60, 'mm')],
          ['Process', 'Seam', 'bar tack, 12 rows'],
          ['Other', 'Wear', 'new'],
          ['Other', 'Seasons in use', 0],
        ],
      },
      {
        label: 'A-2',
        follows: 'A',
        changed: 'two seasons in use',
        why: 'When must a strop be changed?',
        mass: 0.41,
        facts: [
          ['Material', 'Webbing', 'polyester'],
          ['Geometry', 'Webbing width', q(60, 'mm')],
          ['Process', 'Seam', 'bar tack, 12 rows'],
          ['Other', 'Wear', 'fuzzy edge'],
          ['Other', 'Seasons in use', 2],
        ],
      },
    ],
    limits: [
      {
        name: 'Break',
        quantity: 'peakForce',
        comparator: 'atLeast',
        level: 'ultimate',
        entered: q(6.5, 'kN'),
        factor: 5,
        convention: 'factor-of-safety',
        source: 'Haul load with a full cabin, textile factor 5',
      },
      {
        name: 'Retained strength',
        quantity: 'retained',
        comparator: 'atLeast',
        level: 'service',
        entered: percent(80),
        source: 'House rule for changing strops',
      },
    ],
    predictions: [
      {
        revision: 'A',
        quantity: 'peakForce',
        entered: q(40, 'kN'),
        band: percent(5),
        method: 'supplier',
        source: 'Tag on the strop',
        place: 'Seam',
        mode: 'Stitches tear',
      },
      {
        revision: 'A-2',
        quantity: 'retained',
        entered: percent(88),
        band: percent(10),
        method: 'hand',
        source: 'Wear table of the season before',
        place: 'Edge',
        mode: 'Webbing tears',
      },
    ],
  },
  {
    name: 'Mast shell',
    family: 'buckling',
    note: 'Thin steel tube section under axial force and bending, slight inner pressure.',
    features: ['thin shell', 'welded seam'],
    revisions: [
      {
        label: 'A',
        why: 'First section',
        mass: 118,
        facts: [
          ['Geometry', 'Radius', q(450, 'mm')],
          ['Geometry', 'Wall thickness', q(1, 'mm')],
          ['Geometry', 'Length', q(1.8, 'm')],
          ['Material', 'Steel', 'S355'],
          ['Process', 'Seam', 'laser, one seam'],
          ['Other', 'Inner pressure', q(4, 'kPa')],
        ],
      },
    ],
    limits: [
      {
        name: 'Buckling',
        quantity: 'peakForce',
        comparator: 'atLeast',
        level: 'ultimate',
        entered: q(190, 'kN'),
        factor: 1.4,
        source: 'Wind and ice on the upper span',
      },
    ],
    predictions: [
      {
        revision: 'A',
        quantity: 'peakForce',
        entered: q(262, 'kN'),
        band: percent(6),
        method: 'hand',
        source: 'Lower-bound design factor',
        place: 'Near the seam',
        mode: 'Diamond buckles',
      },
      {
        revision: 'A',
        quantity: 'peakForce',
        entered: q(418, 'kN'),
        band: percent(8),
        method: 'simulation',
        source: 'Shell model with the scanned shape',
        place: '0.6 m above the foot',
        mode: 'One inward dent',
      },
    ],
  },
  {
    name: 'Ballast bag',
    family: 'burst',
    note: 'Coated fabric bag of 180 L, filled with water for line tests.',
    features: ['coated fabric', 'welded seam'],
    revisions: [
      {
        label: 'A',
        why: 'First lot',
        mass: 3.1,
        facts: [
          ['Material', 'Fabric', 'coated, 900 g/m2'],
          ['Geometry', 'Fabric thickness', q(0.75, 'mm')],
          ['Geometry', 'Radius', q(210, 'mm')],
          ['Process', 'Seam press', 'press 1'],
        ],
      },
      {
        label: 'B',
        follows: 'A',
        changed: 'seam made on press 2',
        why: 'Press 1 is booked until spring',
        mass: 3.1,
        facts: [
          ['Material', 'Fabric', 'coated, 900 g/m2'],
          ['Geometry', 'Fabric thickness', q(0.75, 'mm')],
          ['Geometry', 'Radius', q(210, 'mm')],
          ['Process', 'Seam press', 'press 2'],
        ],
      },
    ],
    limits: [
      {
        name: 'Burst',
        quantity: 'burstPressure',
        comparator: 'atLeast',
        level: 'ultimate',
        entered: q(25, 'kPa'),
        factor: 4,
        source: 'Rated 25 kPa, bag factor 4',
      },
    ],
    predictions: [
      {
        revision: 'A',
        quantity: 'burstPressure',
        entered: q(128, 'kPa'),
        band: percent(12),
        method: 'hand',
        source: 'Strip strength × seam 0.65 / radius',
        place: 'Cap seam',
        mode: 'Peel',
      },
      {
        revision: 'B',
        quantity: 'burstPressure',
        entered: q(116, 'kPa'),
        band: percent(10),
        method: 'scaled',
        source: 'Strip tests of press 2',
        place: 'Cap seam',
        mode: 'Peel',
      },
    ],
  },
  {
    name: 'Buffer tube',
    family: 'crush',
    note: 'Braided composite tube that takes the cabin’s landing.',
    features: ['braided', 'energy absorber'],
    revisions: [
      {
        label: 'A',
        why: 'Sized from the brochure',
        mass: 0.86,
        facts: [
          ['Material', 'Braid', 'carbon and aramid'],
          ['Geometry', 'Wall thickness', q(2.6, 'mm')],
          ['Geometry', 'Diameter', q(80, 'mm')],
          ['Process', 'Trigger', 'chamfer 45'],
        ],
      },
      {
        label: 'B',
        follows: 'A',
        changed: 'wall 2.6 → 2.9 mm',
        why: 'Measured energy is 11 % below the brochure',
        mass: 0.96,
        facts: [
          ['Material', 'Braid', 'carbon and aramid'],
          ['Geometry', 'Wall thickness', q(2.9, 'mm')],
          ['Geometry', 'Diameter', q(80, 'mm')],
          ['Process', 'Trigger', 'chamfer 45'],
        ],
      },
    ],
    limits: [
      {
        name: 'Mean crush force',
        quantity: 'meanForce',
        comparator: 'atLeast',
        level: 'limit',
        entered: q(27, 'kN'),
        source: 'Stops 420 kg in 180 mm',
      },
      {
        name: 'Initial peak',
        quantity: 'initialPeak',
        comparator: 'atMost',
        level: 'limit',
        entered: q(38, 'kN'),
        source: 'Hanger arm’s limit load at the landing',
      },
    ],
    predictions: [
      {
        revision: 'A',
        quantity: 'specificEnergy',
        entered: q(24, 'kJ/kg'),
        band: percent(5),
        method: 'supplier',
        source: 'Brochure of the braider',
      },
      {
        revision: 'B',
        quantity: 'meanForce',
        entered: q(28.1, 'kN'),
        band: percent(6),
        method: 'scaled',
        source: 'Wall law from five crushes of A',
        mode: 'Splaying from the chamfer',
      },
    ],
  },
  {
    name: 'Cabin on its buffer',
    family: 'drop',
    note: 'Loaded cabin, dropped on the buffer from 1.1 m.',
    features: ['energy absorber'],
    revisions: [
      {
        label: 'A',
        why: 'With buffer A',
        mass: 418,
        facts: [
          ['Geometry', 'Buffer wall', q(2.6, 'mm')],
          ['Other', 'Buffer mass', q(0.86, 'kg')],
          ['Geometry', 'Drop height', q(1.1, 'm')],
        ],
      },
      {
        label: 'B',
        follows: 'A',
        changed: 'buffer tube B',
        why: 'Plateau a little high',
        mass: 418,
        facts: [
          ['Geometry', 'Buffer wall', q(2.9, 'mm')],
          ['Other', 'Buffer mass', q(0.96, 'kg')],
          ['Geometry', 'Drop height', q(1.1, 'm')],
        ],
      },
    ],
    limits: [
      {
        name: 'Plateau',
        quantity: 'plateau',
        comparator: 'atMost',
        level: 'limit',
        entered: q(65, 'm/s²'),
        source: 'What the supplies stand',
      },
      {
        name: 'Rebound',
        quantity: 'rebound',
        comparator: 'atMost',
        level: 'service',
        entered: q(0.8, 'm/s'),
        source: 'Cabin stays in its guide',
      },
    ],
    predictions: [
      {
        revision: 'B',
        quantity: 'plateau',
        entered: q(61, 'm/s²'),
        band: percent(8),
        method: 'hand',
        source: 'Force of buffer B over mass',
        mode: 'Steady crush',
      },
    ],
  },
  {
    name: 'Supply pod canopy',
    family: 'descent',
    note: 'Canopy of 28 m² for pods let down beside the hut.',
    features: ['packed canopy', 'textile'],
    revisions: [
      {
        label: 'A',
        why: 'Small vent',
        mass: 5.2,
        facts: [
          ['Geometry', 'Vent', q(0.35, 'm')],
          ['Geometry', 'Area', q(28, 'm²')],
          ['Process', 'Packing', 'long fold'],
        ],
      },
      {
        label: 'B',
        follows: 'A',
        changed: 'vent 0.35 → 0.55 m',
        why: 'Canopy A swings',
        mass: 5.1,
        facts: [
          ['Geometry', 'Vent', q(0.55, 'm')],
          ['Geometry', 'Area', q(28, 'm²')],
          ['Process', 'Packing', 'long fold'],
        ],
      },
    ],
    limits: [
      {
        name: 'Rate of descent',
        quantity: 'descentRate',
        comparator: 'atMost',
        level: 'service',
        entered: q(5.2, 'm/s'),
        source: 'Cargo breaks above',
      },
      {
        name: 'Opening load',
        quantity: 'peakOpeningForce',
        comparator: 'atMost',
        level: 'limit',
        entered: q(7.4, 'kN'),
        source: 'Riser and pod lug',
      },
    ],
    predictions: [
      {
        revision: 'A',
        quantity: 'descentRate',
        entered: q(4.7, 'm/s'),
        band: percent(8),
        method: 'hand',
        source: 'Drag area of the older canopy',
      },
      {
        revision: 'B',
        quantity: 'descentRate',
        entered: q(5.3, 'm/s'),
        band: percent(8),
        method: 'scaled',
        source: 'Vent area taken off A',
      },
    ],
  },
  {
    name: 'Brake relief valve housing',
    family: 'flow',
    note: 'Cast housing and two printed runners, on the flow bench.',
    features: ['printed', 'cast'],
    revisions: [
      {
        label: 'A',
        why: 'Stock',
        mass: 1.9,
        facts: [
          ['Process', 'Runner', 'cast'],
          ['Geometry', 'Throat', q(24, 'mm')],
        ],
      },
      {
        label: 'B',
        follows: 'A',
        changed: 'printed runner, wide bowl',
        why: 'Brake is slow in the cold',
        mass: 1.7,
        facts: [
          ['Process', 'Runner', 'printed, wide bowl'],
          ['Geometry', 'Throat', q(24, 'mm')],
        ],
      },
      {
        label: 'C',
        follows: 'B',
        changed: 'throat 24 → 25 mm, short turn filled',
        why: 'One lift went down',
        mass: 1.7,
        facts: [
          ['Process', 'Runner', 'printed, filled turn'],
          ['Geometry', 'Throat', q(25, 'mm')],
        ],
      },
    ],
    limits: [
      {
        name: 'Mean flow',
        quantity: 'meanFlow',
        comparator: 'atLeast',
        level: 'service',
        entered: q(0.062, 'm³/s'),
        source: 'Brake opens in 0.4 s',
      },
      {
        name: 'Loss at any lift',
        quantity: 'worstLoss',
        comparator: 'atMost',
        level: 'service',
        entered: q(0.001, 'm³/s'),
        source: 'No lift may get worse',
      },
    ],
    predictions: [
      {
        revision: 'B',
        quantity: 'meanFlow',
        entered: q(0.065, 'm³/s'),
        band: percent(5),
        method: 'simulation',
        source: 'Flow model, 2 mm grid',
      },
    ],
  },
  {
    name: 'Sway-damping fan drive',
    family: 'spin',
    note: 'Motor, controller and fan that damp the cabin’s sway.',
    features: ['rotating'],
    revisions: [
      {
        label: 'A',
        why: 'First drive',
        mass: 6.8,
        facts: [
          ['Geometry', 'Fan diameter', q(560, 'mm')],
          ['Other', 'Fan mass', q(1.1, 'kg')],
          ['Other', 'Blades', 5],
        ],
      },
    ],
    limits: [
      {
        name: 'Thrust',
        quantity: 'maxThrust',
        comparator: 'atLeast',
        level: 'service',
        entered: q(92, 'N'),
        source: 'Gust of 14 m/s at the last mast',
      },
      {
        name: 'Electrical power',
        quantity: 'maxElectricalPower',
        comparator: 'atMost',
        level: 'limit',
        entered: q(1.9, 'kW'),
        source: 'Cabin battery',
      },
    ],
    predictions: [
      {
        revision: 'A',
        quantity: 'maxThrust',
        entered: q(97, 'N'),
        band: percent(6),
        method: 'supplier',
        source: 'Curve of the fan maker',
      },
    ],
  },
  {
    name: 'Fan drive inverter',
    family: 'thermal',
    note: 'Inverter in its weather housing.',
    features: ['electronics'],
    revisions: [
      {
        label: 'A',
        why: 'Closed housing',
        mass: 2.2,
        facts: [
          ['Geometry', 'Sink area', q(0.11, 'm²')],
          ['Other', 'Sink mass', q(0.62, 'kg')],
          ['Surface', 'Sink', 'black anodised'],
        ],
      },
    ],
    limits: [
      {
        name: 'Steady temperature',
        quantity: 'steadyTemperature',
        comparator: 'atMost',
        level: 'limit',
        entered: q(85, '°C'),
        source: 'Capacitors, 10 years',
      },
    ],
    predictions: [
      {
        revision: 'A',
        quantity: 'steadyTemperature',
        entered: q(81, '°C'),
        band: percent(1.5),
        method: 'hand',
        source: 'Losses × thermal resistance',
        place: 'Capacitor bank',
      },
    ],
  },
  {
    name: 'Winch output shaft',
    family: 'torque',
    note: 'Eight shafts: fillet, steel, temper and shot-peening at two levels each.',
    features: ['coupling', 'rotating'],
    revisions: SHAFTS,
    limits: [
      {
        name: 'Yield torque',
        quantity: 'yieldTorque',
        comparator: 'atLeast',
        level: 'limit',
        entered: q(1450, 'N·m'),
        factor: 1.15,
        source: 'Winch stall',
      },
      {
        name: 'Ultimate torque',
        quantity: 'ultimateTorque',
        comparator: 'atLeast',
        level: 'ultimate',
        entered: q(1450, 'N·m'),
        factor: 1.5,
        source: 'Winch stall',
      },
    ],
    predictions: [
      {
        revision: 'S1',
        quantity: 'yieldTorque',
        entered: q(1620, 'N·m'),
        band: percent(7),
        method: 'hand',
        source: 'π d³ τ / 16, notch 1.3',
        place: 'Fillet',
        mode: 'Twist, then a turned fracture',
      },
    ],
  },
  {
    name: 'Control cabinet',
    family: 'vibration',
    note: 'Cabinet on the mast head, shaken before and after.',
    features: ['electronics', 'bolted bracket'],
    revisions: [
      {
        label: 'A',
        why: 'First build',
        mass: 34,
        facts: [
          ['Fixture', 'Bracket bolts', 'M8, 22 N·m'],
          ['Geometry', 'Bracket thickness', q(4, 'mm')],
          ['Other', 'Bracket mass', q(2.1, 'kg')],
        ],
      },
    ],
    limits: [
      {
        name: 'First mode',
        quantity: 'firstFrequency',
        comparator: 'atLeast',
        level: 'service',
        entered: q(32, 'Hz'),
        source: 'Twice the rope’s gallop',
      },
    ],
    predictions: [
      {
        revision: 'A',
        quantity: 'firstFrequency',
        entered: q(36, 'Hz'),
        band: percent(10),
        method: 'simulation',
        source: 'Frame model, rigid bolts',
        mode: 'Nodding on the bracket',
      },
    ],
  },
  {
    name: 'Hanger link alloy',
    family: 'bar',
    note: 'Compression and frame-tension specimens of the link.',
    features: ['forged'],
    revisions: [
      {
        label: 'A',
        why: 'Forged lot 7',
        facts: [
          ['Material', 'Alloy', 'forged aluminium'],
          ['Heat treatment', 'Age', 'T6'],
        ],
      },
    ],
    limits: [
      {
        name: 'Peak stress at rate',
        quantity: 'peakStress',
        comparator: 'atLeast',
        level: 'ultimate',
        entered: q(410, 'MPa'),
        source: 'Snapping rope',
      },
    ],
    predictions: [
      {
        revision: 'A',
        quantity: 'peakStress',
        entered: q(455, 'MPa'),
        band: percent(6),
        method: 'supplier',
        source: 'Rate curve of the forge',
      },
    ],
  },
  {
    name: 'Rope inspection probe',
    family: 'transducer',
    note: 'Piezoelectric probe that listens to the rope.',
    features: ['bonded', 'electronics'],
    revisions: [
      {
        label: 'A',
        why: 'First probe',
        mass: 0.21,
        facts: [
          ['Material', 'Backing', 'epoxy, tungsten'],
          ['Geometry', 'Cable', q(12, 'm')],
        ],
      },
    ],
    limits: [
      {
        name: 'Coupling factor',
        quantity: 'coupling',
        comparator: 'atLeast',
        level: 'service',
        entered: 0.45,
        source: 'Finds a broken wire in the core',
      },
    ],
    predictions: [
      {
        revision: 'A',
        quantity: 'coupling',
        entered: 0.5,
        band: percent(6),
        method: 'supplier',
        source: 'Sheet of the element',
      },
    ],
  },
  {
    name: 'Hanger laminate',
    family: 'coupon',
    note: 'Modulus, shear and bearing sets that feed the arm’s prediction.',
    features: ['bonded'],
    revisions: [
      {
        label: 'A',
        why: 'Lot of arms A and B',
        facts: [
          ['Lay-up', 'Stack', '0/45/-45/90 twice'],
          ['Process', 'Cure', q(120, '°C')],
          ['Geometry', 'Thickness', q(3, 'mm')],
        ],
      },
      {
        label: 'A shear',
        why: 'Its shear values, by coupons at 45°',
        facts: [
          ['Lay-up', 'Stack', '45/-45 four times'],
          ['Process', 'Cure', q(120, '°C')],
          ['Geometry', 'Thickness', q(3, 'mm')],
        ],
      },
      {
        label: 'A bearing',
        why: 'What a pin does to it',
        facts: [
          ['Lay-up', 'Stack', '0/45/-45/90 twice, drilled'],
          ['Process', 'Cure', q(120, '°C')],
          ['Geometry', 'Thickness', q(3, 'mm')],
        ],
      },
    ],
    limits: [
      {
        name: 'Modulus',
        from: 'A',
        quantity: 'modulusMean',
        comparator: 'atLeast',
        level: 'limit',
        entered: q(55, 'GPa'),
        source: 'Arm’s deflection',
        verification: 'test',
      },
      {
        name: 'B-basis strength',
        from: 'A',
        quantity: 'basisB',
        comparator: 'atLeast',
        level: 'ultimate',
        entered: q(360, 'MPa'),
        source: 'Arm’s strength sheet',
      },
    ],
    predictions: [
      {
        revision: 'A',
        quantity: 'modulusMean',
        entered: q(58, 'GPa'),
        band: percent(4),
        method: 'supplier',
        source: 'Data sheet of the weave',
      },
    ],
  },
]
