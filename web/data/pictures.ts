/** Longest side of a photo that is kept, px. */
const LONGEST = 1280
/** Larger files are not tried: a browser may die of them. */
const MOST_BYTES = 40_000_000

/** A photo this browser could not take, and why. */
export class NoPicture extends Error {}

/** A picture made small enough to keep, turned the right way up; drawn anew, so that nothing of where it was taken stays in it. */
async function madeSmall(file: Blob): Promise<Blob> {
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
export const dataAddress = (bytes: Blob): Promise<string> =>
  new Promise((done, fail) => {
    const reader = new FileReader()
    reader.onload = () => done(reader.result as string)
    reader.onerror = () => fail(new Error('the file could not be read'))
    reader.readAsDataURL(bytes)
  })

/** What is stored of a photo. */
export interface KeptPhoto {
  readonly kind: 'image/jpeg'
  readonly base64: string
}

/**
 * A photo as it is kept.
 *
 * @throws NoPicture, with a sentence, where the file is none this browser can read
 */
export async function photoOf(file: File): Promise<KeptPhoto> {
  if (file.size > MOST_BYTES)
    throw new NoPicture(
      `${file.name} holds ${(file.size / 1e6).toFixed(0)} MB; photos of up to ${MOST_BYTES / 1e6} MB are taken.`,
    )
  try {
    return { kind: 'image/jpeg', base64: (await dataAddress(await madeSmall(file))).split(',')[1]! }
  } catch {
    throw new NoPicture(`${file.name} is not a picture this browser can read; take a JPEG, PNG or WebP.`)
  }
}
