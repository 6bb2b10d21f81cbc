import { format } from 'date-fns'
import { useState } from 'react'
import type { RefObject } from 'react'
import type { ReviewFile } from '../../../contract/reviews.ts'
import { Button } from '../../parts/Button.tsx'
import type { Sources } from './sources.tsx'

interface HandOutProps {
  readonly file: ReviewFile
  readonly sources: Sources
  readonly article: RefObject<HTMLElement | null>
  /** Shows the review as it is read: what is handed out is what is read. */
  readonly onRead: () => void
}

export function HandOut({ file }: HandOutProps) {
  return <p>{file.revisions.length}</p>
}
