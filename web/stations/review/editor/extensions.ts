import Image from '@tiptap/extension-image'
import { TableKit } from '@tiptap/extension-table'
import StarterKit from '@tiptap/starter-kit'
import { ReactNodeViewRenderer } from '@tiptap/react'
import { isLink, LINK_SCHEMES } from '../../../../core/review/document.ts'
import { ClaimMarks } from './claimMarks.ts'
import { FigureNode, FlownNode, LiveNode } from './liveNodes.tsx'
import { ReviewPhotoNode } from './ReviewPhoto.tsx'

/** Where photos of reviews are read from; nothing else is shown in one. */
const PHOTOS = '/api/review-photos/'

/** Pictures are photos that were stored for a review; any other that is pasted is left away. */
const Photo = Image.extend({
  parseHTML: () => [{ tag: `img[src^="${PHOTOS}"]` }],
  addNodeView: () => ReactNodeViewRenderer(ReviewPhotoNode),
})

/** What a section can be written with. Whatever else is pasted comes in as its words alone. */
export const EXTENSIONS = [
  StarterKit.configure({
    heading: { levels: [3, 4] },
    codeBlock: false,
    link: {
      openOnClick: false,
      protocols: LINK_SCHEMES.map((s) => s.slice(0, -1)),
      defaultProtocol: 'https',
      isAllowedUri: (url) => isLink(url),
      HTMLAttributes: { rel: 'noopener noreferrer nofollow', target: null },
    },
  }),
  TableKit.configure({ table: { resizable: false } }),
  Photo,
  LiveNode,
  FlownNode,
  FigureNode,
  ClaimMarks,
]
