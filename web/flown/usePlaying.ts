import { useCallback, useEffect, useState } from 'react'

export const PACES = [1, 0.5, 0.2] as const
export type PlayingPace = (typeof PACES)[number]

/** Seconds a step goes, by hand and where motion is not wanted. */
const STEP_S = 0.1
const STILL_STEP_S = 0.5
const STILL_EVERY_MS = 700

const wantsNoMotion = () => matchMedia('(prefers-reduced-motion: reduce)').matches

/** A flight as it is played: where it is, and what plays it. Undefined seconds show all of it. */
export function usePlaying(lastsS: number) {
  const [atS, setAtS] = useState<number>()
  const [pace, setPace] = useState<PlayingPace>(1)
  const [playing, setPlaying] = useState(false)
  useEffect(() => {
    if (!playing) return
    let wanted = true
    let at = atS ?? 0
    const show = () => {
      setAtS(Math.min(at, lastsS))
      if (at >= lastsS) setPlaying(false)
    }
    if (wantsNoMotion()) {
      show()
      const timer = setInterval(() => {
        at += STILL_STEP_S
        show()
      }, STILL_EVERY_MS)
      return () => clearInterval(timer)
    }
    let last: number | undefined
    const frame = (now: number) => {
      if (!wanted) return
      if (last !== undefined) at += (pace * (now - last)) / 1000
      last = now
      show()
      requestAnimationFrame(frame)
    }
    requestAnimationFrame(frame)
    return () => {
      wanted = false
    }
    // begins where it was stopped
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [playing, pace, lastsS])
  const scrub = useCallback((to: number | undefined) => {
    setPlaying(false)
    setAtS(to)
  }, [])
  const step = (by: 1 | -1) =>
    scrub(Math.max(0, Math.min(lastsS, (atS ?? (by > 0 ? 0 : lastsS)) + by * STEP_S)))
  const toggle = () => {
    // stopped before its first picture it stands at its beginning, not at all of it
    if (!playing && (atS === undefined || atS >= lastsS)) setAtS(0)
    setPlaying(!playing)
  }
  return { atS, pace, setPace, playing, toggle, scrub, step }
}
export type Playing = ReturnType<typeof usePlaying>
