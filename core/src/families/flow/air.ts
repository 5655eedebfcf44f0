const GAS_CONSTANT = 287.05287
const STANDARD_DENSITY = 1.2041

/** Density of air at a row, kg/m³: from barometer and temperature; NaN where one of the two is missing. */
export const densityOf = ({ temperature, baro }: Record<string, Float64Array | undefined>, i: number): number =>
  temperature && baro ? baro[i]! / (GAS_CONSTANT * temperature[i]!) : STANDARD_DENSITY
