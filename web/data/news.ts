import { useEffect } from 'react'
import { mutate } from 'swr'
import { News } from '../../contract/news.ts'
import { addressOf, WRITES } from '../../contract/writes.ts'
import { PAGE_ID } from './api.ts'
import { takenIn } from './outbox.ts'
import type { Row } from '../../contract/row.ts'

/** What came within so long is taken in together, ms. */
const TOGETHER_MS = 150

const reread = () => void mutate((key) => typeof key === 'string' && key.startsWith('/api/'))

/** Takes in what others wrote: a row as it is told, or by reading it again where it was too long to be told. */
async function takeIn(news: News): Promise<void> {
  if (news.type === 'everything') return reread()
  if (news.type === 'hands') return void mutate(`${addressOf('trials', news.trialId)}/hands`)
  if (news.pageId === PAGE_ID) return
  const row = news.row && WRITES[news.kind].row.safeParse(news.row)
  // one of another version, or too long: whatever shows it is read again
  if (!row?.success) return reread()
  await takenIn(news.kind, row.data as Row)
}

/** Listens to what others write, for as long as the app is open; what was said while the line was broken is read again. */
export function useNews(): void {
  useEffect(() => {
    if (typeof EventSource === 'undefined') return
    const source = new EventSource('/api/news')
    let opened = 0
    let came: News[] = []
    let timer: ReturnType<typeof setTimeout> | undefined
    const take = async () => {
      const all = came
      came = []
      timer = undefined
      // of a row that was written several times, the last
      const last = new Map(all.map((n) => [n.type === 'row' ? `${n.kind} ${n.id}` : JSON.stringify(n), n]))
      for (const news of last.values()) await takeIn(news)
    }
    source.onopen = () => {
      if (opened++ > 0) reread()
    }
    source.onmessage = (event: MessageEvent<string>) => {
      const news = News.safeParse(JSON.parse(event.data))
      // of a later day: it is read again, and understood or not then
      came.push(news.success ? news.data : { type: 'everything' })
      timer ??= setTimeout(() => void take(), TOGETHER_MS)
    }
    return () => {
      clearTimeout(timer)
      source.close()
    }
  }, [])
}
