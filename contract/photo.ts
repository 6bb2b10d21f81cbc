import { z } from 'zod'
import { Id } from './shelf.ts'

/** Pictures of a disc: the browser makes them small before it sends them. */
export const PHOTO_KINDS = ['image/jpeg', 'image/png', 'image/webp'] as const
/** Bytes at most. */
export const PHOTO_LIMIT = 2_000_000

/** The photo of a disc as it is written; null takes it away. */
export const PhotoRow = z.object({
  /** Of the disc. */
  id: Id,
  photo: z
    .object({
      kind: z.enum(PHOTO_KINDS, { error: `must be one of ${PHOTO_KINDS.join(', ')}` }),
      /** The picture’s bytes, base64. */
      base64: z
        .base64({ error: 'must be base64' })
        .min(4, 'must hold something')
        .refine((text) => bytesIn(text) <= PHOTO_LIMIT, `may hold at most ${PHOTO_LIMIT / 1e6} MB`),
    })
    .nullable(),
})
export type PhotoRow = z.infer<typeof PhotoRow>

const bytesIn = (base64: string): number =>
  (base64.length * 3) / 4 - (base64.endsWith('==') ? 2 : base64.endsWith('=') ? 1 : 0)
