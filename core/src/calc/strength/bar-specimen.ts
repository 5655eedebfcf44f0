import * as z from 'zod'
import { defineCalc } from '../../method/calculation'
import { issue, plain, quantity } from '../../method/settings'
import { dxfOutline, svgOutline, type OutlinePoint } from '../../formats/outline'
import { exact, given, tableOf } from '../answer'

const size = (title: string) => quantity('length', { title, positive: true })

const settings = z
  .object({
    barDiameter: size('Bar diameter'),
    barModulus: quantity('pressure', { title: 'Bar modulus', positive: true }),
    barDensity: quantity('density', { title: 'Bar density', positive: true }),
    strikerLength: size('Striker length'),
    strikerVelocity: quantity('velocity', { title: 'Striker velocity', positive: true }),
    ligaments: plain({ title: 'Ligaments', whole: true, min: 1, max: 8 }).default(2),
    ligamentWidth: size('Width of a ligament'),
    thickness: size('Thickness'),
    gaugeLength: size('Length of a ligament'),
    fillet: quantity('length', { title: 'Fillet radius', min: 0 }).default(0.001),
    frameWidth: size('Width of the frame'),
    frameHeight: size('Height of the frame'),
    strength: quantity('pressure', { title: 'Strength expected', positive: true }).optional(),
    gaugeFullScale: quantity('strain', { title: 'Bar gauges’ full scale', positive: true }).optional(),
  })
  .superRefine((s, ctx) => {
    if (s.ligaments * s.ligamentWidth > s.frameWidth)
      issue(ctx, 'setting-range', 'The ligaments are wider than the frame.', ['ligamentWidth'])
    if (s.gaugeLength + 2 * s.fillet >= s.frameHeight)
      issue(ctx, 'setting-range', 'Ligament and fillets are longer than the frame is high.', ['gaugeLength'])
    if (Math.hypot(s.frameWidth, s.thickness) > s.barDiameter)
      issue(ctx, 'setting-range', 'The frame does not lie inside the bar’s end.', ['frameWidth'])
  })

type Settings = z.output<typeof settings>

const ARC = 8

/**
 * Outlines of the frame and of the windows between its ligaments, m from the lower left corner. Windows have rounded
 * corners, which are the ligaments' fillets.
 */
function outlines(s: Settings): OutlinePoint[][] {
  const open = s.gaugeLength + 2 * s.fillet
  const y0 = (s.frameHeight - open) / 2
  const gaps = s.ligaments > 1 ? s.ligaments - 1 : 0
  const gap = gaps > 0 ? (s.frameWidth - s.ligaments * s.ligamentWidth) / gaps : 0
  const frame: OutlinePoint[] = [
    [0, 0],
    [s.frameWidth, 0],
    [s.frameWidth, s.frameHeight],
    [0, s.frameHeight],
  ]
  return [
    frame,
    ...Array.from({ length: gaps }, (_, i) =>
      rounded((i + 1) * s.ligamentWidth + i * gap, y0, gap, open, Math.min(s.fillet, gap / 2)),
    ),
  ]
}

function rounded(x: number, y: number, width: number, height: number, r: number): OutlinePoint[] {
  const corners = [
    [x + width - r, y + r, -90],
    [x + width - r, y + height - r, 0],
    [x + r, y + height - r, 90],
    [x + r, y + r, 180],
  ] as const
  return corners.flatMap(([cx, cy, from]) =>
    Array.from({ length: ARC + 1 }, (_, i): OutlinePoint => {
      const a = ((from + (90 * i) / ARC) * Math.PI) / 180
      return [cx + r * Math.cos(a), cy + r * Math.sin(a)]
    }),
  )
}

/**
 * A frame between two elastic bars whose ligaments pull while the bars press: its outline, the waves to expect and
 * whether
 * the bars' gauges can read them.
 *
 * @source one-dimensional waves: stress ρcv/2 of a striker of the bar's material, pulse 2L/c; Kolsky (1963), Stress
 * Waves in Solids
 */
export const barSpecimen = defineCalc({
  id: 'bar-specimen',
  title: 'Bar specimen',
  purpose: 'A frame that pulls under compression: outline, waves, gauge check',
  version: '1.0.0',
  settings,
  example: {
    barDiameter: { value: 20, unit: 'mm' },
    barModulus: { value: 200, unit: 'GPa' },
    barDensity: 7850,
    strikerLength: 0.4,
    strikerVelocity: 12,
    ligaments: 2,
    ligamentWidth: { value: 2, unit: 'mm' },
    thickness: { value: 2, unit: 'mm' },
    gaugeLength: { value: 4, unit: 'mm' },
    fillet: { value: 1, unit: 'mm' },
    frameWidth: { value: 12, unit: 'mm' },
    frameHeight: { value: 12, unit: 'mm' },
    strength: { value: 450, unit: 'MPa' },
    gaugeFullScale: { value: 2000, unit: 'µε' },
  },
  labels: {
    ligamentArea: 'Area of the ligaments',
    incidentStress: 'Incident wave',
    incidentStrain: 'Incident strain',
    pulseDuration: 'Pulse',
    waveSpeed: 'Wave speed in the bar',
    transmittedStrain: 'Transmitted strain at the strength',
    strainRate: 'Largest strain rate',
    breakForce: 'Ligaments break at',
    incidentForce: 'Incident force',
  },
  calculate(s) {
    const c = Math.sqrt(s.barModulus / s.barDensity)
    const barArea = (Math.PI * s.barDiameter ** 2) / 4
    const area = s.ligaments * s.ligamentWidth * s.thickness
    const stress = (s.barDensity * c * s.strikerVelocity) / 2
    const strain = stress / s.barModulus
    const breakForce = s.strength === undefined ? null : s.strength * area
    const transmitted = breakForce === null ? null : breakForce / (barArea * s.barModulus)
    const full = s.gaugeFullScale
    const warnings = [
      ...(full !== undefined && strain > full
        ? [{ code: 'over-range', message: 'The incident wave is beyond the gauges’ full scale.' }]
        : []),
      ...(full !== undefined && transmitted !== null && transmitted < 0.2 * full
        ? [
            {
              code: 'low-range',
              message:
                'The transmitted wave uses less than a fifth of the gauges’ range: more gain or wider ligaments.',
            },
          ]
        : []),
      ...(breakForce !== null && breakForce > stress * barArea
        ? [{ code: 'too-strong', message: 'The wave does not carry the force that breaks the ligaments.' }]
        : []),
    ]
    // A row without numbers ends each contour, so that a curve through them does not jump.
    const points = outlines(s).flatMap((o, i): Record<string, number | null>[] => [
      ...[...o, o[0]!].map(([x, y]) => ({ x, y, contour: i + 1 })),
      { x: null, y: null, contour: null },
    ])
    return {
      results: given({
        ligamentArea: exact(area, 'm²'),
        waveSpeed: exact(c, 'm/s'),
        incidentStress: exact(stress, 'Pa'),
        incidentStrain: exact(strain, '1'),
        incidentForce: exact(stress * barArea, 'N'),
        pulseDuration: exact((2 * s.strikerLength) / c, 's'),
        breakForce: breakForce === null ? null : exact(breakForce, 'N'),
        transmittedStrain: transmitted === null ? null : exact(transmitted, '1'),
        strainRate: exact((2 * c * strain) / s.gaugeLength, '1/s'),
      }),
      tables: { outline: tableOf(points, { x: 'm', y: 'm', contour: '1' }) },
      warnings,
    }
  },
  files: s => [
    { name: 'frame.svg', mime: 'image/svg+xml', text: svgOutline(outlines(s)) },
    { name: 'frame.dxf', mime: 'application/dxf', text: dxfOutline(outlines(s)) },
  ],
})
