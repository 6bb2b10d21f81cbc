import { useLayoutEffect, useRef, useState } from 'react'

/** How wide a box is by now, px: 0 until it stands. */
export function useWidth() {
  const box = useRef<HTMLDivElement>(null)
  const [width, setWidth] = useState(0)
  useLayoutEffect(() => {
    const element = box.current!
    const watch = new ResizeObserver(() => setWidth(element.clientWidth))
    watch.observe(element)
    setWidth(element.clientWidth)
    return () => watch.disconnect()
  }, [])
  return { box, width }
}
