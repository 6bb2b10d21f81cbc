/**
 * Where things stand in the vectors of the rating. A disc has three numbers, an arm a habit of four, a throw seven errors of
 * its own; a point is one throw on one flight: its disc's numbers, then its release and its wind.
 */

/** Of a disc: glide, turn, fade. */
export const NUMBER = { glide: 0, turn: 1, fade: 2 } as const
export const OF_DISC = 3

/** Of an arm, against the release that was meant. */
export const HABIT = { lnSpeed: 0, launch: 1, hyzer: 2, nose: 3 } as const
export const OF_HABIT = 4

/** Of one throw, against its arm's habit; the last two are the wind's, against what was logged. */
export const ERROR = { lnSpeed: 0, launch: 1, hyzer: 2, nose: 3, azimuth: 4, along: 5, toFade: 6 } as const
export const OF_THROW = 7

/** Of a point: ln speed in m/s, angles in radians, wind in m/s. */
export const AT = {
  ...NUMBER,
  lnSpeed: OF_DISC + ERROR.lnSpeed,
  launch: OF_DISC + ERROR.launch,
  hyzer: OF_DISC + ERROR.hyzer,
  nose: OF_DISC + ERROR.nose,
  azimuth: OF_DISC + ERROR.azimuth,
  along: OF_DISC + ERROR.along,
  toFade: OF_DISC + ERROR.toFade,
} as const
export const POINT = OF_DISC + OF_THROW

/** Unknowns a throw bears on: its disc's numbers, then its arm's habit. */
export const BEARS_ON = OF_DISC + OF_HABIT
