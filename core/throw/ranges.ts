import { NUMBER_RANGE } from '../flight/disc.ts'
import { FIGURE_KEYS, OBSERVED } from './observed.ts'
import type { FigureKey, ObservedUnit } from './observed.ts'

type Range = readonly [number, number]

/** Figures of a sheet that belong to the disc, the arm or the air, not to one throw. */
export const ABOUT = {
  speed: { column: 'speed', range: NUMBER_RANGE.speed, unit: '' },
  glide: { column: 'glide', range: NUMBER_RANGE.glide, unit: '' },
  turn: { column: 'turn', range: NUMBER_RANGE.turn, unit: '' },
  fade: { column: 'fade', range: NUMBER_RANGE.fade, unit: '' },
  weightG: { column: 'weight_g', range: [100, 220], unit: 'g' },
  fullSpeedMps: { column: 'full_speed_mps', range: [8, 45], unit: 'm/s' },
  temperatureC: { column: 'temperature_c', range: [-40, 55], unit: '°C' },
  altitudeM: { column: 'altitude_m', range: [-450, 6000], unit: 'm' },
  discThrows: { column: 'disc_throws', range: [0, 1_000_000], unit: '' },
  discHits: { column: 'disc_hits', range: [0, 1_000_000], unit: '' },
  watcherSdDeg: { column: 'watcher_sd_deg', range: [0.3, 40], unit: '°' },
} as const satisfies Record<
  string,
  { readonly column: string; readonly range: Range; readonly unit: ObservedUnit | 'g' | '°C' }
>

export type SheetNumber = FigureKey | keyof typeof ABOUT

/** The least and most a number on the sheet can be; beyond, it is a slip of the pen. */
export const SHEET_RANGE = Object.fromEntries([
  ...Object.entries(ABOUT).map(([key, { range }]) => [key, range]),
  ...FIGURE_KEYS.map((key) => [key, OBSERVED[key].range]),
]) as { readonly [K in SheetNumber]: Range }

/** The unit of a number on the sheet; empty where it has none. */
export const SHEET_UNIT = Object.fromEntries([
  ...Object.entries(ABOUT).map(([key, { unit }]) => [key, unit]),
  ...FIGURE_KEYS.map((key) => [key, OBSERVED[key].unit]),
]) as { readonly [K in SheetNumber]: ObservedUnit | 'g' | '°C' }

/** Of a recorded path, s and m: a flight is not further away, nor longer in the air. */
export const PATH_RANGE = {
  t_s: [-1, 30],
  down_m: [-20, 320],
  right_m: [-160, 160],
  up_m: [-20, 80],
} as const satisfies Record<string, Range>
