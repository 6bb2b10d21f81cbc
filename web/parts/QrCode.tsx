import QRCode from 'qrcode'
import { useMemo } from 'react'

/** Something to point a phone at; the same stands beside it in words. */
export function QrCode({ text, label, size = 176 }: { text: string; label: string; size?: number }) {
  const { path, cells } = useMemo(() => {
    const { modules } = QRCode.create(text, { errorCorrectionLevel: 'M' })
    const parts: string[] = []
    for (let y = 0; y < modules.size; y++)
      for (let x = 0; x < modules.size; x++) if (modules.get(y, x)) parts.push(`M${x} ${y}h1v1h-1z`)
    return { path: parts.join(''), cells: modules.size }
  }, [text])
  const margin = 4
  const side = cells + 2 * margin
  return (
    <svg
      role="img"
      aria-label={label}
      width={size}
      height={size}
      viewBox={`${-margin} ${-margin} ${side} ${side}`}
      shapeRendering="crispEdges"
      className="shrink-0 rounded-lg"
    >
      {/* cameras want dark on light in every theme */}
      <rect x={-margin} y={-margin} width={side} height={side} fill="#ffffff" />
      <path d={path} fill="#000000" />
    </svg>
  )
}
