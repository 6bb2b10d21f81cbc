/** The wind in words: “3.2 m/s head, from left”. */
export function blowsWords(alongMps: number, toRightMps: number, show: (mps: number) => string): string {
  const strength = Math.hypot(alongMps, toRightMps)
  if (strength < 0.05) return 'no wind'
  const parts = [
    Math.abs(alongMps) < 0.2 * strength ? '' : alongMps < 0 ? 'head' : 'tail',
    Math.abs(toRightMps) < 0.2 * strength ? '' : toRightMps > 0 ? 'from left' : 'from right',
  ].filter(Boolean)
  return `${show(strength)} ${parts.join(', ')}`
}
