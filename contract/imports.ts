import { z } from 'zod'
import { QUESTION_KINDS } from '../core/plan/questions.ts'

/** What an import would do, or did. */
export const ImportPreview = z.object({
  throws: z.int(),
  leftOut: z.int(),
  /** Throws of this file that are in the trial already and would be written again the same. */
  again: z.int(),
  knownDiscs: z.array(z.string()),
  newDiscs: z.array(z.string()),
  knownThrowers: z.array(z.string()),
  newThrowers: z.array(z.string()),
  noteColumns: z.array(z.string()),
  /** What the file says otherwise than the shelf; the shelf's word stays. */
  differences: z.array(z.string()),
  /** What the throws seem to ask, from what their discs differ in. */
  asks: z.enum(QUESTION_KINDS),
  stored: z.boolean(),
})
export type ImportPreview = z.infer<typeof ImportPreview>

/** What an import of discs would do, or did. */
export const ShelfImport = z.object({
  discs: z.int(),
  /** Codes. */
  added: z.array(z.string()),
  changed: z.array(z.string()),
  unchanged: z.int(),
  /** Molds, plastics and runs that get other numbers, for every disc of them. */
  renumbered: z.array(z.string()),
  stored: z.boolean(),
})
export type ShelfImport = z.infer<typeof ShelfImport>

/** How far an import is. */
export const ImportProgress = z.object({
  stage: z.enum(['reading', 'storing']),
  /** Rows stored, and rows there are; 0 of 0 while the file is read. */
  done: z.int(),
  total: z.int(),
})
export type ImportProgress = z.infer<typeof ImportProgress>
