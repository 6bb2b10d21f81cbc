import { NodeViewWrapper } from '@tiptap/react'
import type { ReactNodeViewProps } from '@tiptap/react'
import { useWaiting } from '../../../data/outbox.ts'
import { isOf } from '../../../data/queueStore.ts'

/** A photo of a review; one that has not been sent yet is shown from this device. */
export function ReviewPhotoNode({ node }: ReactNodeViewProps) {
  const { src, alt } = node.attrs as { src: string; alt: string | null }
  const waiting = useWaiting().flatMap((w) =>
    isOf(w, 'review-photos') && src.endsWith(w.body.id) && w.body.photo ? [w.body.photo] : [],
  )[0]
  return (
    <NodeViewWrapper as="figure">
      <img src={waiting ? `data:${waiting.kind};base64,${waiting.base64}` : src} alt={alt ?? ''} />
    </NodeViewWrapper>
  )
}
