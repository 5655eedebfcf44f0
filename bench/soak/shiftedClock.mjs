// Loaded before a server whose wall clock is set from outside: by so many milliseconds, as a file says.
import { readFileSync } from 'node:fs'

let shift = 0
setInterval(() => {
  shift = Number(readFileSync(process.env.SOAK_CLOCK, 'utf8')) || 0
}, 100).unref()
const Real = Date
globalThis.Date = class extends Real {
  constructor(...args) {
    if (args.length === 0) super(Real.now() + shift)
    else super(...args)
  }

  static now() {
    return Real.now() + shift
  }
}
