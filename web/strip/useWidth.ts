import { useLayoutEffect, useRef, useState } from 'react'

/** How wide a box is by now, px: 0 until it stands. */
export function useWidth() {
  const box = useRef<HTMLDivElement>(null)
  const [width, setWidth] = useState(0)
  useLayoutEffect(() => {
    const element = box.current!
    // what is drawn in it as wide as it was does not keep it so wide: a phone may be turned
    element.style.setProperty('contain', 'inline-size')
    const watch = new ResizeObserver(() => setWidth(element.clientWidth))
    watch.observe(element)
    setWidth(element.clientWidth)
    return () => watch.disconnect()
  }, [])
  return { box, width }
}
