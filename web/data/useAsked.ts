import { useCallback, useEffect, useRef, useState } from 'react'

/** An answer that is worked out elsewhere: the newest there is, whether a newer one is on its way, what went wrong. */
export interface AskedAnswer<T> {
  readonly value: T | undefined
  readonly working: boolean
  readonly error: Error | undefined
  /** Asks once more, after an error. */
  readonly again: () => void
}

interface Answer<T> {
  readonly key: string
  readonly about: string
  readonly value?: T
  readonly error?: Error
}

interface AskedOptions {
  /** What it is asked about: the answer to an earlier question about something else is not shown meanwhile. */
  readonly about?: string
  /** A pause before it is asked, for what is still being edited, ms. */
  readonly pauseMs?: number
  /** Asks one question at a time: of those that come while one is answered only the newest is asked, afterwards. */
  readonly inTurn?: boolean
}

/**
 * Asks something and keeps the answer. An answer that comes after another question was asked is dropped; until the newest
 * answer is there, the one before is shown.
 *
 * @param key stands for the question: the same key is not asked again; null asks nothing
 * @param ask told how to see whether its answer is still waited for
 */
export function useAsked<T>(
  key: string | null,
  ask: (wanted: () => boolean) => Promise<T>,
  { about = '', pauseMs = 0, inTurn = false }: AskedOptions = {},
): AskedAnswer<T> {
  const [answer, setAnswer] = useState<Answer<T>>()
  const [tries, setTries] = useState(0)
  const newest = useRef(ask)
  const busy = useRef<Promise<T>>(undefined)
  useEffect(() => {
    newest.current = ask
  })
  useEffect(() => {
    if (key === null) return
    let current = true
    const put = async () => {
      if (inTurn) await busy.current?.catch(() => {})
      if (!current) return
      const asked = newest.current(() => current)
      busy.current = asked
      try {
        const value = await asked
        if (current) setAnswer({ key, about, value })
      } catch (e) {
        if (current) setAnswer({ key, about, error: e instanceof Error ? e : new Error(String(e)) })
      }
    }
    const wait = pauseMs > 0 ? setTimeout(() => void put(), pauseMs) : void put()
    return () => {
      current = false
      clearTimeout(wait)
    }
  }, [key, about, tries, pauseMs, inTurn])
  const again = useCallback(() => {
    setAnswer(undefined)
    setTries((n) => n + 1)
  }, [])
  const shown = key !== null && answer?.about === about ? answer : undefined
  return {
    value: shown?.value,
    working: key !== null && answer?.key !== key,
    error: shown?.key === key ? shown?.error : undefined,
    again,
  }
}
