import type { SheetThrow } from '../../../core/throw/sheetThrow.ts'

/** A line of the sheet, with some of it otherwise. */
export const line = (change: Partial<SheetThrow> = {}): SheetThrow => ({
  throw: 't',
  thrower: 'Odile Fenn',
  hand: 'right',
  stroke: 'backhand',
  disc: 'HS-017',
  speed: 9,
  glide: 5,
  turn: -1,
  fade: 2,
  power: 1,
  hyzerDeg: 10,
  carryM: 90,
  rightM: -12,
  counts: true,
  ...change,
})
