export const HANDS = ['right', 'left'] as const
export const STROKES = ['backhand', 'forehand'] as const
export type Hand = (typeof HANDS)[number]
export type Stroke = (typeof STROKES)[number]
export type LeftOrRight = 'left' | 'right'

/** The side a throw finishes to as it slows: left for a right-hand backhand or left-hand forehand, else right. */
export const fadeSide = (hand: Hand, stroke: Stroke): LeftOrRight =>
  (hand === 'right') === (stroke === 'backhand') ? 'left' : 'right'

/** +1 when the fade side is the thrower's right, −1 when it is the left. */
export const fadeSign = (hand: Hand, stroke: Stroke): 1 | -1 => (fadeSide(hand, stroke) === 'right' ? 1 : -1)

/**
 * Distance to the thrower's right ↔ veer (toward the fade side), same units. The map is its own inverse: a
 * counter-clockwise disc is the mirror image of a clockwise one.
 */
export const mirrored = (value: number, sign: 1 | -1): number => (value === 0 ? 0 : value * sign)
