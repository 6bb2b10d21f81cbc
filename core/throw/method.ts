/** How a landing was measured; each has its own error. */
export const MEASURING_METHODS = ['eye', 'paced', 'ranged', 'taped'] as const
export type MeasuringMethod = (typeof MEASURING_METHODS)[number]
