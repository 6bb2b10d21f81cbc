import useSWR, { mutate } from 'swr'
import { v7 as newId } from 'uuid'
import type { Disc } from '../../contract/shelf.ts'
import type { DiscRecord, InspectedDisc, ShelfPage } from '../../contract/shelfPage.ts'
import { say, sayWrong } from '../parts/Toasts.tsx'
import { read, write } from './api.ts'

/** While ratings are behind what was thrown, they are asked for again. */
const AGAIN_MS = 1500
const untilSteady = { refreshInterval: (d?: { behind: boolean }) => (d?.behind ? AGAIN_MS : 0) }

/** One page of the shelf; the one before stays while the next is on its way. */
export function useShelfPage(search: string) {
  const { data, error } = useSWR<ShelfPage>(`/api/discs${search && `?${search}`}`, read, {
    keepPreviousData: true,
    ...untilSteady,
  })
  return { page: data, error: error as Error | undefined }
}

export function useDiscRecord(id: string) {
  const { data, error } = useSWR<DiscRecord>(`/api/discs/${id}/record`, read, untilSteady)
  return { record: data, error: error as Error | undefined }
}

/** The latest inspection of every disc. */
export function useInspections(): readonly InspectedDisc[] {
  return useSWR<InspectedDisc[]>('/api/inspections', read).data ?? []
}

/** Whatever was read of discs is read again. */
export const shelfChanged = (): Promise<unknown> =>
  mutate(
    (key) =>
      typeof key === 'string' &&
      ['/api/discs', '/api/shelf', '/api/inspections'].some((p) => key.startsWith(p)),
  )

const edit = async (discs: readonly Disc[]) => {
  const id = newId()
  await write(`/api/shelf-edits/${id}`, { id, discs })
  await shelfChanged()
}

/** Changes discs in one go, says so, and can take it back. */
export async function changeDiscs(
  before: readonly Disc[],
  change: Partial<Disc>,
  done: string,
): Promise<void> {
  try {
    await edit(before.map((d) => ({ ...d, ...change })))
    say(done, {
      label: 'Undo',
      run: () =>
        void edit(before).then(
          () => say('It is as it was before.'),
          (e: Error) => sayWrong(e.message),
        ),
    })
  } catch (e) {
    sayWrong((e as Error).message)
  }
}
