/** The air a disc flies through, in the frame of the throw. */
export interface Air {
  /** Density, kg/m³. */
  readonly densityKgM3: number
  /** Wind along the aim line at 1.8 m above ground, m/s; positive from behind the thrower (tailwind). */
  readonly windAlongMps: number
  /** Wind across the aim line at 1.8 m, m/s; positive blowing toward the fade side. */
  readonly windTowardFadeMps: number
  /** Exponent of the power-law wind profile; 0 is uniform, 0.14 open grass. */
  readonly shearExponent: number
}

/** Density every published number and every corrected flight refers to, kg/m³ (dry air, 20 °C, sea level). */
export const REFERENCE_DENSITY = 1.2041

/** Height at which wind is measured, m. */
export const WIND_HEIGHT = 1.8

/** No wind, reference density. */
export const STILL_AIR: Air = {
  densityKgM3: REFERENCE_DENSITY,
  windAlongMps: 0,
  windTowardFadeMps: 0,
  shearExponent: 0,
}

/**
 * Density of moist air, kg/m³.
 *
 * Pressure from the barometric formula of the standard atmosphere, vapour pressure after Magnus, and the
 * ideal gas law for each part.
 *
 * @param temperatureC air temperature, °C
 * @param altitudeM height above sea level, m
 * @param relativeHumidity 0…1
 */
export function airDensity(temperatureC: number, altitudeM = 0, relativeHumidity = 0.5): number {
  const kelvin = temperatureC + 273.15
  const pressurePa = 101325 * (1 - 2.25577e-5 * altitudeM) ** 5.25588
  const vapourPa = relativeHumidity * 610.94 * Math.exp((17.625 * temperatureC) / (temperatureC + 243.04))
  return (pressurePa - vapourPa) / (287.058 * kelvin) + vapourPa / (461.495 * kelvin)
}
