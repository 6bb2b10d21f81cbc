import { Camera } from 'lucide-react'
import { useState } from 'react'
import type { Disc } from '../../../contract/shelf.ts'
import { remove, sendBytes } from '../../data/api.ts'
import { shelfChanged } from '../../data/shelfPage.ts'
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

export function Photo({ disc, has }: { disc: Disc; has: boolean }) {
  const [version, setVersion] = useState(0)
  const path = `/api/discs/${disc.id}/photo`
  const keep = async (file: File) => {
    let small: Blob
    try {
      small = await madeSmall(file)
    } catch {
      return sayWrong(`${file.name} is not a picture this browser can read; take a JPEG, PNG or WebP.`)
    }
    try {
      await sendBytes(path, small)
      setVersion(version + 1)
      await shelfChanged()
    } catch (e) {
      sayWrong((e as Error).message)
    }
  }
  const drop = async () => {
    const kept = await (await fetch(path)).blob()
    await remove(path)
    await shelfChanged()
    say('The photo is gone.', {
      label: 'Undo',
      run: () => void sendBytes(path, kept).then(() => shelfChanged()),
    })
  }
  return has ? (
    <figure>
      <img
        src={`${path}?v=${version}`}
        alt={`${disc.code}, photographed`}
        className="max-h-56 w-full rounded-lg object-cover"
      />
      <Button kind="quiet" onClick={() => void drop()}>
        Remove the photo
      </Button>
    </figure>
  ) : (
    <div className="flex items-end gap-2">
      <Camera size={20} aria-hidden className="mb-2.5 shrink-0 text-quiet" />
      <FileInput label="Photo" accept="image/*" onFile={(f) => void keep(f)} />
    </div>
  )
}
