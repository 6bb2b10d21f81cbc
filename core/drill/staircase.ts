/** After an answer that was right the next is so much harder; after one that was not, so much easier. */
const HARDER = 0.05
/** An eye is right so often where the steps balance. */
export const TARGET = 0.75
const EASIER = (HARDER * TARGET) / (1 - TARGET)
/** Where somebody begins. */
export const FIRST_LEVEL = 0.25

/**
 * The level of the next question of a kind: weighted steps up and down (Kaernbach, 1991), which settle where three of four answers
 * are right.
 *
 * @param rights whether each answer was right, the oldest first
 */
export const levelAfter = (rights: readonly boolean[]): number =>
  rights.reduce((level, right) => Math.max(0, Math.min(1, level + (right ? HARDER : -EASIER))), FIRST_LEVEL)
