import { Camera } from 'lucide-react'
import { useState } from 'react'
import { PhotoRow } from '../../../contract/photo.ts'
import type { Disc } from '../../../contract/shelf.ts'
import { outbox } from '../../data/outbox.ts'
import { dataAddress, NoPicture, photoOf } from '../../data/pictures.ts'
import { Button } from '../../parts/Button.tsx'
import { FileInput } from '../../parts/FileReading.tsx'
import { say, sayWrong } from '../../data/say.ts'

async function photoRow(discId: string, bytes: Blob): Promise<PhotoRow> {
  const base64 = (await dataAddress(bytes)).split(',')[1]
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
    try {
      await outbox.put('photos', { id: disc.id, photo: await photoOf(file) })
    } catch (e) {
      if (e instanceof NoPicture) return sayWrong(e.message)
      throw e
    }
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
