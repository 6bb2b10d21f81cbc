/** Constants of the flight model that every face of it shares. */

/** Gravity, m/s². */
export const GRAVITY = 9.80665
/** Angle of attack at which lift and moment level off, rad: the soft stall a = STALL·tanh(α/STALL). */
export const STALL = 0.55
/** sin of the angle of attack is held to this, so that 1/cos stays finite. */
export const STEEPEST_SIN = 0.9999
/** Spin decays at this rate times V² at reference density, 1/s per (m/s)². */
export const SPIN_DECAY = 7.5e-5
/** Wobble dies away in so many seconds, adds this share of cd0 to the drag, and this to the nose-down moment. */
export const WOBBLE = { lastsS: 0.8, drag: 0.8, moment: 0.004 } as const
