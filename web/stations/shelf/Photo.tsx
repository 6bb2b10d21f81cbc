import { Camera } from 'lucide-react'
import { useState } from 'react'
import { PhotoRow } from '../../../contract/photo.ts'
import type { Disc } from '../../../contract/shelf.ts'
import { outbox } from '../../data/outbox.ts'
import { Button } from '../../parts/Button.tsx'
import { FileInput } from '../../parts/FileReading.tsx'
import { say, sayWrong } from '../../parts/Toasts.tsx'

/** Longest side of a photo that is kept, px. */
const LONGEST = 1280

/** A picture made small enough to keep, turned the right way up. */
async function madeSmall(file: File): Promise<Blob> {
  const picture = await createImageBitmap(file)
  const scale = Math.min(1, LONGEST / Math.max(picture.width, picture.height))
  const canvas = document.createElement('canvas')
  canvas.width = Math.round(picture.width * scale)
  canvas.height = Math.round(picture.height * scale)
  canvas.getContext('2d')!.drawImage(picture, 0, 0, canvas.width, canvas.height)
  return new Promise((done, fail) =>
    canvas.toBlob((b) => (b ? done(b) : fail(new Error('no picture'))), 'image/jpeg', 0.85),
  )
}

/** Bytes as an address a picture can be shown from, which holds them as base64. */
const addressOf = (bytes: Blob): Promise<string> =>
  new Promise((done, fail) => {
    const reader = new FileReader()
    reader.onload = () => done(reader.result as string)
    reader.onerror = () => fail(new Error('the picture could not be read'))
    reader.readAsDataURL(bytes)
  })

async function photoRow(discId: string, bytes: Blob): Promise<PhotoRow> {
  const base64 = (await addressOf(bytes)).split(',')[1]
  return PhotoRow.parse({ id: discId, photo: { kind: bytes.type, base64 } })
}

interface PhotoProps {
  readonly disc: Disc
  readonly has: boolean
  /** A photo that has not been sent yet. */
  readonly waiting: PhotoRow | undefined
}

export function Photo({ disc, has, waiting }: PhotoProps) {
  const [version, setVersion] = useState(0)
  const path = `/api/discs/${disc.id}/photo`
  const keep = async (file: File) => {
    let row: PhotoRow
    try {
      row = await photoRow(disc.id, await madeSmall(file))
    } catch {
      return sayWrong(`${file.name} is not a picture this browser can read; take a JPEG, PNG or WebP.`)
    }
    await outbox.put('photos', row)
    setVersion(version + 1)
  }
  const drop = async () => {
    let kept: PhotoRow | undefined = waiting
    try {
      kept ??= await photoRow(disc.id, await (await fetch(path)).blob())
    } catch {
      // the server is away: it can be taken off, but there is nothing to bring back
    }
    await outbox.put('photos', { id: disc.id, photo: null })
    const back = kept
    say('The photo was taken off.', back && { label: 'Restore', run: () => void outbox.put('photos', back) })
  }
  const shown = waiting?.photo
    ? `data:${waiting.photo.kind};base64,${waiting.photo.base64}`
    : `${path}?v=${version}`
  return has ? (
    <figure>
      <img
        src={shown}
        alt={`${disc.code}, photographed`}
        className="max-h-56 w-full rounded-lg object-cover"
      />
      <Button kind="quiet" onClick={() => void drop()}>
        Take the photo off
      </Button>
    </figure>
  ) : (
    <div className="flex items-end gap-2">
      <Camera size={20} aria-hidden className="mb-2.5 shrink-0 text-quiet" />
      <FileInput label="Photo" accept="image/*" onFile={(f) => void keep(f)} />
    </div>
  )
}
