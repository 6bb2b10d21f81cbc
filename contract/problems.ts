import { z } from 'zod'

/** What kinds of problem there are, by the status they come with. */
export const PROBLEM_TYPES = {
  400: 'unreadable',
  401: 'not-signed-in',
  403: 'not-allowed',
  404: 'not-found',
  409: 'conflict',
  413: 'too-large',
  415: 'unknown-content',
  422: 'invalid',
  426: 'other-version',
  429: 'too-many',
  500: 'failed',
  503: 'away',
  507: 'no-room',
} as const
/** Under it a kind of problem has its address. */
export const PROBLEM_BASE = '/problems/'

/** The type of a problem of a status; of one that nobody named it is that of any other. */
export const problemType = (status: number): string =>
  PROBLEM_BASE + (status in PROBLEM_TYPES ? PROBLEM_TYPES[status as keyof typeof PROBLEM_TYPES] : 'refused')

/** `application/problem+json`, with the places at fault. */
export const Problem = z.object({
  /** What kind of problem it is: one of {@link PROBLEM_TYPES}, under {@link PROBLEM_BASE}. Programs go by it, never by words. */
  type: z.string().default('about:blank'),
  title: z.string(),
  status: z.int(),
  detail: z.string(),
  requestId: z.string().optional(),
  /** The row as it is stored, where it was changed by somebody else meanwhile. */
  stored: z.record(z.string(), z.unknown()).optional(),
  errors: z
    .array(z.object({ path: z.string(), message: z.string(), row: z.int().nullable().optional() }))
    .optional(),
})
export type Problem = z.infer<typeof Problem>
