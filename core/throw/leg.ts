/** Out into the wind, or back with it: which way of the walk a throw was made on. */
export const LEGS = ['out', 'back'] as const
export type Leg = (typeof LEGS)[number]

/** Which way the thrower faces against the way out: +1 out, −1 back. */
export const alongOut = (leg: Leg): 1 | -1 => (leg === 'out' ? 1 : -1)
