import { useEffect } from 'react'
import type { Dispatch } from 'react'
import { useSearchParams } from 'react-router'
import { mirrored } from '../../../core/flight/hand.ts'
import { INTENDED, intendedOf } from '../../../contract/lab.ts'
import type { ShelvedDisc } from '../../../contract/sheet.ts'
import { aimedWords, angleWords, powerWords } from '../../data/units.ts'
import { say, sayWrong } from '../../data/say.ts'
import type { FieldEvent } from './logging.ts'

/** A throw that was made up elsewhere, which the address holds, is the next one: once, and then the run goes on. @param sign of the fade side of whoever throws */
export function useIntended(
  discs: readonly ShelvedDisc[],
  sign: 1 | -1,
  dispatch: Dispatch<FieldEvent>,
): void {
  const [params, setParams] = useSearchParams()
  const held = params.get(INTENDED)
  useEffect(() => {
    if (held === null) return
    const intended = intendedOf(held)
    if (intended && discs.some((d) => d.disc.id === intended.discId)) {
      const { discId, hyzerDeg, power } = intended
      const aimDeg = intended.aimDeg === 0 ? null : mirrored(intended.aimDeg, sign)
      dispatch({ type: 'chosen', meant: { discId, hyzerDeg }, power, aimDeg })
      const words = [angleWords(hyzerDeg), aimedWords(aimDeg), powerWords(power)].filter(Boolean)
      say(`Next as it was set: ${words.join(', ')}.`)
    } else sayWrong('The throw that was meant is of no disc of this trial.')
    setParams((p) => (p.delete(INTENDED), p), { replace: true })
  }, [held, discs, sign, dispatch, setParams])
}
