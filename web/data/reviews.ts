import { at } from '../../contract/api.ts'
import { useMemo } from 'react'
import { v7 as newId } from 'uuid'
import type { ReviewFile } from '../../contract/reviews.ts'
import type { Review, ReviewSection } from '../../contract/reviews.ts'
import type { FilledSection } from '../../core/review/sections.ts'
import { useRead } from './hooks.ts'
import { outbox, useWaiting } from './outbox.ts'
import { rowOver, rowsOver } from './overlay.ts'

/** A review with its sections in order, what waits on this device among them. */
export function useReview(id: string) {
  const { data, error } = useRead(at('GET /api/reviews/:id', { id }))
  const waiting = useWaiting()
  const file = useMemo<ReviewFile | undefined>(() => {
    const review = rowOver('reviews', id, data?.review, waiting)
    if (!review) return undefined
    const sections = rowsOver('review-sections', data?.sections ?? [], waiting, (s) => s.reviewId === id)
      .filter((s) => s.removedAt === null)
      .sort((a, b) => a.place - b.place)
    return { review, sections, revisions: data?.revisions ?? [] }
  }, [id, data, waiting])
  return { file, error }
}

/** Reviews a trial is part of, the latest first. */
export function useReviews(trialId: string) {
  const { data, error } = useRead(at('GET /api/reviews', { trial: trialId }))
  const waiting = useWaiting()
  const reviews = useMemo(() => {
    if (!data && !error) return undefined
    const rows = rowsOver(
      'reviews',
      (data ?? []).map((r) => r.review),
      waiting,
      (r) => r.trialIds.includes(trialId),
    )
    return rows
      .filter((r) => r.removedAt === null)
      .map((review) => ({
        review,
        revisions: data?.find((d) => d.review.id === review.id)?.revisions ?? [],
      }))
  }, [data, error, waiting, trialId])
  return { reviews, error }
}

/** Starts a review of some trials, its sections filled; all of it is kept on this device first. */
export async function startReview(
  title: string,
  trialIds: readonly string[],
  units: Review['units'],
  sections: readonly FilledSection[],
): Promise<Review> {
  const review: Review = {
    ...{ id: newId(), title, trialIds: [...trialIds], units },
    ...{ listed: false, removedAt: null },
  }
  await outbox.put('reviews', review)
  for (const [place, s] of sections.entries())
    await outbox.put('review-sections', {
      ...s,
      id: newId(),
      reviewId: review.id,
      place,
      verdicts: s.kind === 'verdict' ? NO_VERDICTS : null,
      hidden: false,
      removedAt: null,
      version: 0,
    } satisfies ReviewSection)
  return review
}
export const NO_VERDICTS = { slot: null, overlaps: '', forWhom: '', notForMe: false, again: null } as const
