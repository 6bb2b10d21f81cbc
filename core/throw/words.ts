/** A release angle as it is called: “flat”, “12° hyzer”, “7.5° anhyzer”. */
export function angleWords(hyzerDeg: number): string {
  const shown = Math.round(Math.abs(hyzerDeg) * 10) / 10
  return shown === 0 ? 'flat' : `${shown}° ${hyzerDeg > 0 ? 'hyzer' : 'anhyzer'}`
}

/** A share of full power in words: “full power”, “85 % power”. */
export const powerWords = (share: number): string =>
  share === 1 ? 'full power' : `${Math.round(100 * share)} % power`
