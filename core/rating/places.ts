/**
 * Where things stand in the vectors of the rating. A disc has three numbers, an arm a habit of seven, a throw seven errors of
 * its own; a point is one throw on one flight: its disc's numbers, then its release, its wind and its spin.
 */

/** Of a disc: glide, turn, fade. */
export const NUMBER = { glide: 0, turn: 1, fade: 2 } as const
export const OF_DISC = 3

/**
 * Of an arm, against the release that was meant; then how its full power grows with the speed number, against the usual, the ln
 * of its spin against the usual at its speed, and how its hyzer grows with the speed number.
 */
export const HABIT = {
  lnSpeed: 0,
  launch: 1,
  hyzer: 2,
  nose: 3,
  byClass: 4,
  lnSpin: 5,
  hyzerByClass: 6,
} as const
export const OF_HABIT = 7

/** Of one throw, against its arm's habit; the last two are the wind's, against what was logged. */
export const ERROR = { lnSpeed: 0, launch: 1, hyzer: 2, nose: 3, azimuth: 4, along: 5, toFade: 6 } as const
export const OF_THROW = 7

/** Of a point: ln speed in m/s, angles in radians, wind in m/s, ln of the spin against the usual at its speed. */
export const AT = {
  ...NUMBER,
  lnSpeed: OF_DISC + ERROR.lnSpeed,
  launch: OF_DISC + ERROR.launch,
  hyzer: OF_DISC + ERROR.hyzer,
  nose: OF_DISC + ERROR.nose,
  azimuth: OF_DISC + ERROR.azimuth,
  along: OF_DISC + ERROR.along,
  toFade: OF_DISC + ERROR.toFade,
  lnSpin: OF_DISC + OF_THROW,
} as const
export const POINT = OF_DISC + OF_THROW + 1

/** Unknowns a throw bears on: its disc's numbers, its arm's habit, then the aim line of its outing. */
export const BEARS_ON = OF_DISC + OF_HABIT + 1
export const AIM = OF_DISC + OF_HABIT
/** Which coordinate of the point each of them moves; by how much differs for growth with the class and for the aim. */
export const MOVES: readonly number[] = [
  AT.glide,
  AT.turn,
  AT.fade,
  AT.lnSpeed,
  AT.launch,
  AT.hyzer,
  AT.nose,
  AT.lnSpeed,
  AT.lnSpin,
  AT.hyzer,
  AT.azimuth,
]
