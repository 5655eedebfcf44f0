/** Where an actuator stands and how fast it moves, in what it commands and of it a second. */
export interface ActuatorState {
  position: number
  velocity: number
}

/** Natural frequency, rad/s, and damping of a small servo rig: it overshoots a step by some 3 %. */
const NATURAL = 5
const DAMPING = 0.75
const LONGEST_STEP = 0.02

/**
 * Moves an actuator after its set-point, in place: second order with overshoot, no faster than `fastest`.
 *
 * @param dt  s
 * @source Ogata, Modern Control Engineering, ch. 5 (second-order systems)
 */
export function moveActuator(a: ActuatorState, set: number, dt: number, fastest: number): void {
  const steps = Math.max(1, Math.ceil(dt / LONGEST_STEP))
  const h = dt / steps
  for (let i = 0; i < steps; i++) {
    const wanted = a.velocity + h * (NATURAL * NATURAL * (set - a.position) - 2 * DAMPING * NATURAL * a.velocity)
    a.velocity = Math.min(fastest, Math.max(-fastest, wanted))
    a.position += h * a.velocity
  }
}
