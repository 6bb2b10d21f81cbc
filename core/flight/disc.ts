/** The four numbers a maker publishes, kept real-valued; rounded only for show. */
export interface FlightNumbers {
  readonly speed: number
  readonly glide: number
  readonly turn: number
  readonly fade: number
}

/** Aerodynamic coefficients of a disc (dimensionless; slopes per radian of angle of attack). */
/** The numbers that throws can tell: the speed number is taken from the label. */
export const SEEN_NUMBERS = ['glide', 'turn', 'fade'] as const
export type SeenNumber = (typeof SEEN_NUMBERS)[number]
/** Labels come in wholes and halves: a disc within half a number of its label is true to it. */
export const HALF_NUMBER = 0.5

export interface Coefficients {
  readonly cd0: number
  readonly cl0: number
  readonly cm0: number
  readonly cma: number
}

/** What a disc measures. */
export interface Body {
  readonly massKg: number
  readonly diameterM: number
}

/** Lift slope per radian, the same for every disc on this scale. */
export const LIFT_SLOPE = 2.02
/** Growth of drag with sin² of the angle of attack away from zero lift. */
export const DRAG_GROWTH = 1.006
/** Moment of inertia about the spin axis as a share of m·(d/2)². */
export const INERTIA_SHARE = 0.58

/** A disc nobody has put on a scale: 175 g, 212 mm. */
export const STANDARD_BODY: Body = { massKg: 0.175, diameterM: 0.212 }

/** The range in which the scale is meant to be used; outside it a number is a typing error. */
export const NUMBER_RANGE = {
  speed: [1, 15],
  glide: [0, 7.5],
  turn: [-5, 2],
  fade: [-1, 6],
} as const satisfies Record<keyof FlightNumbers, readonly [number, number]>

/**
 * Flight numbers → coefficients: Veer Line's own linear map.
 *
 * Lift and pitching moment near linear in angle of attack, quadratic drag, after the measurements of flying
 * discs published in the sports-engineering literature; the scale itself is this product's.
 */
export function coefficientsOf({ speed, glide, turn, fade }: FlightNumbers): Coefficients {
  return {
    cd0: 0.078 - 0.0026 * speed,
    cl0: -0.0945 + 0.029 * glide,
    cm0: -0.00056 + (0.006 - 0.00015 * (speed - 8)) * turn,
    cma: 0.0043 + 0.01297 * fade - (0.0622 + 0.0031 * (speed - 8)) * turn,
  }
}

/** Coefficients → flight numbers: the inverse of {@link coefficientsOf}, exact up to rounding. */
export function numbersOf({ cd0, cl0, cm0, cma }: Coefficients): FlightNumbers {
  const speed = (0.078 - cd0) / 0.0026
  const glide = (cl0 + 0.0945) / 0.029
  const turn = (cm0 + 0.00056) / (0.006 - 0.00015 * (speed - 8))
  const fade = (cma - 0.0043 + (0.0622 + 0.0031 * (speed - 8)) * turn) / 0.01297
  return { speed, glide, turn, fade }
}

/** The four numbers as a label has them, “9/5/−1/2”. */
export const numbersWords = ({ speed, glide, turn, fade }: FlightNumbers): string =>
  [speed, glide, turn, fade].join('/').replaceAll('-', '−')
