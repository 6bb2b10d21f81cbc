/** A release angle as it is called: “flat”, “12° hyzer”, “7.5° anhyzer”. */
export function angleWords(hyzerDeg: number): string {
  const shown = Math.round(Math.abs(hyzerDeg) * 10) / 10
  return shown === 0 ? 'flat' : `${shown}° ${hyzerDeg > 0 ? 'hyzer' : 'anhyzer'}`
}

/** How a throw was aimed off the line on purpose: “aimed 4.3° right”; empty where along it. @param aimDeg to the right */
export function aimedWords(aimDeg: number | null | undefined): string {
  const shown = Math.round(10 * Math.abs(aimDeg ?? 0)) / 10
  return shown === 0 ? '' : `aimed ${shown}° ${aimDeg! > 0 ? 'right' : 'left'}`
}

/** A share of full power in words: “full power”, “85 % power”. */
export const powerWords = (share: number): string =>
  share === 1 ? 'full power' : `${Math.round(100 * share)} % power`
