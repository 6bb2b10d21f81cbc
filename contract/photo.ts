/** Pictures of a disc: the browser makes them small before it sends them. */
export const PHOTO_KINDS = ['image/jpeg', 'image/png', 'image/webp'] as const
/** Bytes at most. */
export const PHOTO_LIMIT = 2_000_000
