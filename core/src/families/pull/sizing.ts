import type { FamilySizing } from '../../advise/sizing'

/** Threads side by side carry alike: force, stiffness and energy go with the width and with the number of layers. */
const side = { exponent: 1, doubt: 0.1, because: 'threads side by side share the force' }
const sideBySide = { peakForce: side, stiffness: side, energyToPeak: side }

export const pullSizing: FamilySizing<unknown, unknown> = {
  laws: [
    {
      key: 'width',
      label: 'Webbing width',
      kind: 'length',
      names: ['webbing width', 'width'],
      step: 0.005,
      results: sideBySide,
      mass: { exponent: 1 },
      touches: ['Fittings and pins'],
    },
    {
      key: 'section',
      label: 'Cross-section',
      kind: 'area',
      names: ['cross-section', 'section', 'area'],
      results: sideBySide,
      mass: { exponent: 1 },
      touches: ['Terminations'],
    },
    {
      key: 'layers',
      label: 'Layers',
      kind: 'ratio',
      names: ['layers', 'strands'],
      step: 1,
      results: sideBySide,
      mass: { exponent: 1 },
      touches: ['Seam: more layers to sew through'],
    },
  ],
}
