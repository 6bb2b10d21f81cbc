import { greatest } from 'd3'
import { SEEN_NUMBERS } from '../../flight/disc.ts'
import { probabilityAbove } from '../../rating/outcome.ts'
import type { Estimate } from '../../rating/outcome.ts'
import { effectsOf } from '../effects.ts'
import type { EffectOutcome } from '../effects.ts'
import { boundsOf, stabilityWord } from '../words.ts'
import {
  ratingIn,
  figureWithin,
  inNumbers,
  isSettled,
  percent,
  throwsOf,
  unanswerable,
  ratedIn,
  copiesOf,
  possibly,
} from './answer.ts'
import type { Asked, Found } from './answer.ts'
import type { WearPoint } from './picture.ts'

/** The copies of a plastic that are in the most different states, newest first. */
function wornApart(asked: Asked): WearPoint[] {
  const all = copiesOf(asked).map((copies) =>
    copies
      .flatMap((disc): WearPoint[] => {
        const wear = ratedIn(asked, disc).kin?.wear
        const { stability } = ratingIn(asked, disc)
        return wear === undefined ? [] : [{ disc, wear, stability, through: asked.through?.get(disc) }]
      })
      .sort((a, b) => a.wear - b.wear),
  )
  const apart = (list: readonly WearPoint[]) => (list.at(-1)?.wear ?? 0) - (list[0]?.wear ?? 0)
  return greatest(all, apart) ?? []
}

/** Copies nearer to each other than this, in throws, say little of a hundred. */
const LEAST_THROWS = 50

/** Throws between the newest and the oldest copy; undefined where they are not counted or too few. */
function throwsApart({ through: from }: WearPoint, { through: to }: WearPoint): number | undefined {
  const apart = from === undefined || to === undefined ? 0 : to - from
  return apart >= LEAST_THROWS ? apart : undefined
}

/** After how many more throws a disc leaves its word, as fast as it changes; undefined where it does not within what was seen. */
function leavesAfter(from: number, change: number, apart: number): number | undefined {
  const { low, high } = boundsOf(stabilityWord(from))
  const share = ((change < 0 ? low : high) - from) / change
  return share <= 1 ? share * apart : undefined
}

/**
 * What is known of an effect had nothing been believed of its direction: as it stands, less what the mean of the belief put in.
 * Before any throw either direction is as likely as the other.
 */
function undecided({ stability, believed }: EffectOutcome): Estimate {
  const { value, sd } = stability
  return { value: value - (sd / believed.sd) ** 2 * believed.value, sd }
}

/** Throws lean to what is said from this probability on. */
const LEANING = 0.8

/**
 * Probability that wear takes stability. That it does is believed of all discs; of these it counts once their own throws lean that
 * way: discs that do not wear would be said to, for being believed so.
 */
function lessStable(effect: EffectOutcome): number {
  const { value, sd } = undecided(effect)
  const own = 1 - probabilityAbove(value, sd)
  return own < LEANING ? own : 1 - probabilityAbove(effect.stability.value, effect.stability.sd)
}

/** What wear has changed: copies of one plastic in several states, and what all discs say wear does from new to beaten. */
export function answerWear(asked: Asked): Found {
  const { state, words } = asked
  const points = wornApart(asked)
  const effect = effectsOf(state).find((e) => e.level === 'wear')
  const [newest, oldest] = [points[0], points.at(-1)]
  if (!effect || !newest || !oldest || newest.wear === oldest.wear)
    return unanswerable(
      'No two copies of one plastic are in different states: what wear has changed cannot be seen',
      ['Add a newer or an older copy, and say on the shelf how worn each is.'],
    )
  const share = oldest.wear - newest.wear
  const times = (e: { readonly value: number; readonly sd: number }) => ({
    value: share * e.value,
    sd: share * e.sd,
  })
  const change = times(effect.stability)
  const pLess = lessStable(effect)
  const less = pLess >= 0.5
  const p = Math.max(pLess, 1 - pLess)
  const settled = isSettled(p)
  const [from, to] = [newest.stability.value, newest.stability.value + change.value]
  const [word, after] = [stabilityWord(from), stabilityWord(to)]
  const plastic = ratedIn(asked, newest.disc).kin?.plastic ?? words.name(newest.disc)
  const made = (less: boolean) => `Wear has made ${plastic} ${less ? 'less' : 'more'} stable`
  const took = `from the newest to the oldest ${inNumbers(change)} on the scale of turn + fade`
  const apart = throwsApart(newest, oldest)
  const per100 = (e: { readonly value: number; readonly sd: number }) => ({
    value: (100 * e.value) / apart!,
    sd: (100 * e.sd) / apart!,
  })
  const leaves = apart === undefined ? undefined : leavesAfter(from, change.value, apart)
  return {
    sentence: settled
      ? `${made(less)}: ${took}${word === after ? `; it stays ${word}` : `, from ${word} to ${after}`}`
      : `What wear has changed in ${plastic} is not settled: ${took}`,
    probability: p,
    settled,
    possible: possibly(made(less), [
      { says: made(true), probability: pLess },
      { says: made(false), probability: 1 - pLess },
    ]),
    claim: settled ? { says: less ? 'wear takes stability' : 'wear gives stability' } : undefined,
    besides: [
      ...(apart === undefined
        ? []
        : [
            `A hundred throws change it by ${inNumbers(per100(change), 2)}: ${words.name(newest.disc)} had been through ${newest.through}, ${words.name(oldest.disc)} through ${oldest.through}`,
          ]),
      ...(leaves === undefined
        ? []
        : [
            `At that pace it leaves “${word}” after about ${10 * Math.round((newest.through! + leaves) / 10)} throws`,
          ]),
      ...SEEN_NUMBERS.map((n) => {
        const by = times(effect[n])
        const down = 1 - probabilityAbove(by.value, by.sd)
        const pace = apart === undefined ? '' : `, ${inNumbers(per100(by), 2)} a hundred throws`
        return `${n}: ${inNumbers(by)}${pace}, ${down >= 0.5 ? 'less' : 'more'} with ${percent(Math.max(down, 1 - down))}`
      }),
    ],
    open: [
      ...(apart === undefined
        ? ['How much a hundred throws change is known once the shelf counts what each copy went through.']
        : []),
      `It is believed of all discs that are worn alike; one copy of ${words.name(oldest.disc)} may be odd.`,
    ],
    wants: settled ? undefined : [newest.disc, oldest.disc],
    figures: {
      stability: figureWithin(change, ''),
      ...(apart === undefined ? {} : { 'stability per hundred throws': figureWithin(per100(change), '') }),
      ...Object.fromEntries(SEEN_NUMBERS.map((n) => [n, figureWithin(times(effect[n]), '')])),
    },
    picture: { kind: 'wear', points, change: effect.stability },
    throws: throwsOf(asked),
  }
}
