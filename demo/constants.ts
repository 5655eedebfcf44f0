/* Numbers of materials and suppliers. Made up. */

const GPa = (value: number) => ({ value, unit: 'GPa' })
const MPa = (value: number) => ({ value, unit: 'MPa' })
const density = (value: number) => ({ value, unit: 'kg/m³' })
const days = (value: number) => ({ value, unit: 'd' })

interface DemoConstant {
  subject: string
  property: string
  entered: { value: number; unit: string }
  origin: string
  source: string
  n?: number
  spread?: { value: number; unit: string }
}

const of = (
  subject: string,
  origin: string,
  source: string,
  rows: [property: string, entered: { value: number; unit: string }][],
): DemoConstant[] => rows.map(([property, entered]) => ({ subject, property, entered, origin, source }))

/** What the arm is made of, by the property of its calculation. */
export const LAMINATE = {
  modulus: 'Modulus',
  strength: 'Strength, bending',
  shearStrength: 'Strength, shear',
  density: 'Density',
} as const

export const constants: DemoConstant[] = [
  ...of('Hanger laminate', 'supplier', 'Data sheet of the weave, issue 4', [
    ['Modulus', GPa(58)],
    ['Strength, bending', MPa(420)],
    ['Strength, shear', MPa(60)],
    ['Density', density(1550)],
  ]),
  ...of('Stiffer carbon weave', 'supplier', 'Offer of the weaver', [
    ['Modulus', GPa(74)],
    ['Strength, bending', MPa(400)],
    ['Strength, shear', MPa(58)],
    ['Density', density(1560)],
    ['Lead time', days(28)],
    ['Cost', { value: 1900, unit: '1' }],
  ]),
  ...of('Glass weave', 'supplier', 'Data sheet', [
    ['Modulus', GPa(23)],
    ['Strength, bending', MPa(310)],
    ['Strength, shear', MPa(45)],
    ['Density', density(1850)],
    ['Lead time', days(6)],
    ['Cost', { value: 700, unit: '1' }],
  ]),
  {
    subject: 'Braided tube',
    property: 'Specific energy',
    entered: { value: 24, unit: 'kJ/kg' },
    origin: 'supplier',
    source: 'Brochure of the braider',
  },
  {
    subject: 'Mast steel',
    property: 'Yield strength',
    entered: MPa(355),
    origin: 'supplier',
    source: 'Mill certificate',
    n: 3,
    spread: MPa(4),
  },
  { subject: 'Mast steel', property: 'Modulus', entered: GPa(206), origin: 'handbook', source: 'Shop handbook' },
  {
    subject: 'Winch steel, hard temper',
    property: 'Yield strength in shear',
    entered: MPa(520),
    origin: 'supplier',
    source: 'Certificate of the lot',
  },
  {
    subject: 'Coated bag fabric',
    property: 'Strip strength',
    entered: { value: 42, unit: 'kN/m' },
    origin: 'supplier',
    source: 'Roll label',
    n: 5,
    spread: { value: 1.6, unit: 'kN/m' },
  },
  {
    subject: 'Polyester sling',
    property: 'Rated break',
    entered: { value: 40, unit: 'kN' },
    origin: 'supplier',
    source: 'Tag on the strop',
  },
]

/** Measured values that took a supplier's place by decision. */
export const replacements = [
  {
    subject: 'Braided tube',
    property: 'Specific energy',
    with: {
      entered: { value: 21.3, unit: 'kJ/kg' },
      origin: 'measured',
      n: 5,
      spread: { value: 0.7, unit: 'kJ/kg' },
      source: 'Five slow crushes, lot 2',
    },
  },
]
