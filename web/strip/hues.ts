/** Hues of discs, fixed and told apart by colour-blind eyes; always with a name or code beside them. */
const HUES = 8

/** CSS colour of the disc at a place in its trial; the themes define the hues. */
export const hueOf = (place: number): string => `var(--hue-${((place % HUES) + HUES) % HUES})`
