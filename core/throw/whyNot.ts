/** Why a throw that warms the arm does not count. */
export const WARM_UP = 'warm-up'
/** Why a throw does not count. */
export const WHY_NOT = ['hit a branch', 'gust', 'slipped', 'not my throw'] as const
