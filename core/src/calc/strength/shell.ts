/** A thin cylinder: m, Pa. */
export interface Shell {
  radius: number
  thickness: number
  modulus: number
  poisson: number
}

/**
 * Force at which a perfect cylinder of this wall would buckle, N. @source Timoshenko & Gere, Theory of Elastic
 * Stability, ch. 11
 */
export const classicalForce = ({ modulus, thickness, poisson }: Omit<Shell, 'radius'>): number =>
  (2 * Math.PI * modulus * thickness ** 2) / Math.sqrt(3 * (1 - poisson ** 2))

/** Lower bound of what tested shells carried, of the classical force. @source NASA SP-8007 (1968), eq. 7 */
export const lowerBoundFactor = ({ radius, thickness }: Pick<Shell, 'radius' | 'thickness'>): number =>
  1 - 0.901 * (1 - Math.exp(-Math.sqrt(radius / thickness) / 16))

/** The same for a cylinder in bending. @source NASA SP-8007 (1968), eq. 8 */
export const lowerBoundFactorBending = ({ radius, thickness }: Pick<Shell, 'radius' | 'thickness'>): number =>
  1 - 0.731 * (1 - Math.exp(-Math.sqrt(radius / thickness) / 16))
