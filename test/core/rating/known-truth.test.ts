import { expect } from 'chai'
import { scoreSessions } from '../../simulate/score.ts'
import type { Score } from '../../simulate/score.ts'

/** Sessions a careful reviewer throws: a control disc among six, the angle called, the hang time taken. */
const CAREFUL = { control: true, called: true, hang: true, apart: 0.7 } as const
const SESSIONS = 18

const describeScore = (s: Score) =>
  `turn ${s.turnRms.toFixed(2)} fade ${s.fadeRms.toFixed(2)} held ${Object.values(s.held)
    .map((h) => h.toFixed(2))
    .join(
      '/',
    )} order ${s.rightOrder.toFixed(3)} (published ${s.rightOrderPublished.toFixed(3)}, mean side ${s.rightOrderMeanSide.toFixed(3)}) of ${s.pairs}`

/** Ninety per cent intervals that hold the truth 85 to 97 % of the time. */
function expectHonest(score: Score, low = 0.85, high = 1): void {
  for (const [name, held] of Object.entries(score.held)) {
    expect(held, `${name} held, ${describeScore(score)}`).within(low, high)
  }
}

describe('rating sessions whose truth is known', () => {
  it('meets the bar on careful sessions: turn, fade, intervals, order, and beats both baselines', () => {
    const score = scoreSessions(CAREFUL, SESSIONS, 100)
    expect(score.unsettled).equal(0)
    expect(score.turnRms, describeScore(score)).lessThan(0.35)
    expect(score.fadeRms, describeScore(score)).lessThan(0.5)
    expectHonest(score)
    expect(score.pairs).greaterThan(90)
    expect(score.rightOrder, describeScore(score)).greaterThan(0.96)
    expect(score.rightOrder).greaterThan(score.rightOrderPublished + 0.05)
    expect(score.rightOrder).greaterThan(score.rightOrderMeanSide + 0.05)
    expect(score.turnRms).lessThan(score.publishedTurnRms / 2)
    expect(score.fadeRms).lessThan(score.publishedFadeRms)
  })

  it('keeps the bar with gusts nobody recorded, paced distances and one bad throw in ten', () => {
    const score = scoreSessions({ ...CAREFUL, gusts: 1, method: 'paced', bad: 0.1 }, SESSIONS, 200)
    expect(score.turnRms, describeScore(score)).lessThan(0.35)
    expect(score.fadeRms, describeScore(score)).lessThan(0.5)
    expectHonest(score)
    expect(score.rightOrder, describeScore(score)).greaterThan(0.94)
    expect(score.rightOrder).greaterThan(score.rightOrderPublished)
    expect(score.rightOrder).greaterThan(score.rightOrderMeanSide)
  })

  it('rates landings alone, truth as far from the label as the prior allows, within honest intervals', () => {
    const score = scoreSessions({}, SESSIONS, 300)
    expectHonest(score, 0.82)
    expect(score.turnRms, describeScore(score)).lessThan(0.5)
    expect(score.fadeRms, describeScore(score)).lessThan(0.75)
    expect(score.rightOrder).greaterThan(score.rightOrderPublished + 0.1)
    expect(score.rightOrder).greaterThan(score.rightOrderMeanSide)
  })

  it('estimates the speed of arms nobody has measured', () => {
    const known = scoreSessions({ throwers: 2, called: true }, 9, 400)
    const unknown = scoreSessions({ throwers: 2, called: true, fullSpeedKnown: false }, 9, 400)
    expectHonest(unknown, 0.8)
    expect(unknown.turnRms).lessThan(known.turnRms + 0.1)
  })

  it('learns more from a mid point and a hang time than from landings alone', () => {
    const plain = scoreSessions({}, 9, 500)
    const more = scoreSessions({ hang: true, mid: true, called: true }, 9, 500)
    expect(more.turnRms).lessThan(plain.turnRms)
    expect(more.glideRms).lessThan(plain.glideRms)
  })

  it('tells turn from fade better over three angles than from flat throws', () => {
    const flat = scoreSessions({ angles: [0] }, 14, 600)
    const spread = scoreSessions({ angles: [10, 0, -8] }, 14, 600)
    expect(spread.turnRms).lessThan(flat.turnRms)
  })
})
