/** How worn a disc is, by eye, the newest first. */
export const WEAR_STATES = ['new', 'seasoned', 'worn', 'beaten'] as const
export type WearState = (typeof WEAR_STATES)[number]

/** The same as a share of the way from new to beaten. */
export const wearOf = (state: WearState): number => WEAR_STATES.indexOf(state) / (WEAR_STATES.length - 1)
