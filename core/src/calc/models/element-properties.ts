import * as z from 'zod'
import { defineCalc } from '../../method/calculation'
import { issue, quantity } from '../../method/settings'
import { exact, given } from '../answer'

/** F/m. @source CODATA 2018 */
const VACUUM = 8.8541878128e-12

const settings = z
  .object({
    seriesFrequency: quantity('frequency', { title: 'Series resonance', positive: true }),
    parallelFrequency: quantity('frequency', { title: 'Parallel resonance', positive: true }),
    thickness: quantity('length', { title: 'Thickness', positive: true }),
    density: quantity('density', { title: 'Density', positive: true }),
    capacitance: quantity('capacitance', { title: 'Capacitance far below the resonance', positive: true }).optional(),
    area: quantity('area', { title: 'Area of the electrodes', positive: true }).optional(),
  })
  .superRefine((s, ctx) => {
    if (s.parallelFrequency <= s.seriesFrequency)
      issue(ctx, 'setting-range', 'The parallel resonance lies above the series one.', ['parallelFrequency'])
    if ((s.capacitance === undefined) !== (s.area === undefined))
      issue(ctx, 'missing-setting', 'A permittivity needs capacitance and area.', [
        s.area === undefined ? 'area' : 'capacitance',
      ])
  })

/**
 * Constants of a plate that vibrates in its thickness, from its resonances: what a supplier's sheet leaves out.
 *
 * @source IEEE Std 176-1987, 6.4: kt² = (π/2)(fs/fp)·tan((π/2)(fp − fs)/fp), c₃₃ᴰ = 4ρt²fp²
 */
export const elementProperties = defineCalc({
  id: 'element-properties',
  title: 'Piezoelectric element',
  purpose: 'Coupling, stiffness and permittivity of a plate from its resonances',
  version: '1.0.0',
  settings,
  example: {
    seriesFrequency: { value: 985, unit: 'kHz' },
    parallelFrequency: { value: 1.108, unit: 'MHz' },
    thickness: { value: 2.02, unit: 'mm' },
    density: 7650,
    capacitance: { value: 1.42, unit: 'nF' },
    area: { value: 3.14, unit: 'cm²' },
  },
  labels: {
    coupling: 'Thickness coupling',
    soundSpeed: 'Speed of sound',
    impedance: 'Acoustic impedance, kg/(m²·s)',
    stiffenedModulus: 'Stiffened modulus',
    modulus: 'Modulus, short-circuited',
    permittivityFree: 'Relative permittivity, free',
    permittivityClamped: 'Relative permittivity, clamped',
    piezoConstant: 'Piezoelectric constant e33, C/m²',
  },
  calculate(s) {
    const share = s.seriesFrequency / s.parallelFrequency
    const k2 = (Math.PI / 2) * share * Math.tan((Math.PI / 2) * (1 - share))
    const stiffened = 4 * s.density * s.thickness ** 2 * s.parallelFrequency ** 2
    const soundSpeed = 2 * s.thickness * s.parallelFrequency
    const free =
      s.capacitance !== undefined && s.area !== undefined ? (s.capacitance * s.thickness) / (s.area * VACUUM) : null
    const clamped = free === null ? null : free * (1 - k2)
    return {
      results: given({
        coupling: exact(Math.sqrt(k2), '1'),
        soundSpeed: exact(soundSpeed, 'm/s'),
        impedance: exact(s.density * soundSpeed, 'kg/(m²·s)'),
        stiffenedModulus: exact(stiffened, 'Pa'),
        modulus: exact(stiffened * (1 - k2), 'Pa'),
        permittivityFree: free === null ? null : exact(free, '1'),
        permittivityClamped: clamped === null ? null : exact(clamped, '1'),
        piezoConstant: clamped === null ? null : exact(Math.sqrt(k2 * stiffened * clamped * VACUUM), 'C/m²'),
      }),
      tables: {},
      warnings:
        k2 >= 1
          ? [
              {
                code: 'not-a-plate',
                message: 'These resonances are not those of a plate in its thickness: the coupling would be above one.',
              },
            ]
          : [],
    }
  },
})
