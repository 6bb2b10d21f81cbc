import { randomLcg, randomNormal } from 'd3'
import { expect } from 'chai'
import { drillQuestionOf } from '../../../core/drill/deal.ts'
import type { DrillQuestion, DrillKind } from '../../../core/drill/question.ts'
import { ENOUGH_ANSWERS, errorsOf, eyeOf, likeOf, reliabilityOf } from '../../../core/drill/watcher.ts'
import type { WatchedReply, Factor, EyeMeasure } from '../../../core/drill/watcher.ts'

const ASKED: readonly DrillKind[] = ['angle', 'turn', 'fade', 'landing']
/** Questions as sessions ask them, the same for all who are simulated; answers differ. */
const questions = (count: number, kinds = ASKED): DrillQuestion[] =>
  Array.from({ length: count }, (_, i) =>
    drillQuestionOf(kinds[i % kinds.length]!, 0.4, (0.017 + i * 0.618034) % 1),
  )

interface Planted {
  readonly measure: EyeMeasure
  readonly factor: Factor
  readonly by: number
}
const SD: Record<EyeMeasure, number> = { angle: 5, turn: 0.6, fade: 0.6, along: 7, aside: 5 }

/** Somebody who sees with noise, and with a bias where one is planted. */
function watched(asked: readonly DrillQuestion[], seed: number, planted?: Planted): WatchedReply[] {
  const normal = randomNormal.source(randomLcg(seed))()
  const off = (measure: EyeMeasure, q: DrillQuestion) =>
    SD[measure] * normal() +
    (planted?.measure === measure && likeOf(q).includes(planted.factor) ? planted.by : 0)
  return asked.map((question): WatchedReply => {
    const { kind, truth } = question
    const asked = { kind, truth, like: likeOf(question) }
    if (truth.kind === 'circle') {
      const at = {
        downM: truth.at.downM + off('along', question),
        sideM: truth.at.sideM + off('aside', question),
      }
      return { ...asked, answer: { kind: 'circle', at, radiusM: 8 } }
    }
    if (truth.kind !== 'range') throw new Error('only figures are seen with an error')
    const middle = truth.value + off(kind as 'angle', question)
    return { ...asked, answer: { kind: 'range', low: middle - 2, high: middle + 2 } }
  })
}

describe('an eye', () => {
  it('is off by the middle of what was said, or by how far along and aside', () => {
    const [angle, , , landing] = questions(4)
    const [a, l] = watched([angle!, landing!], 0.2)
    const said = a!.answer.kind === 'range' ? (a!.answer.low + a!.answer.high) / 2 : NaN
    const truth = angle!.truth.kind === 'range' ? angle!.truth.value : NaN
    expect(errorsOf(a!).angle).closeTo(said - truth, 1e-12)
    expect(Object.keys(errorsOf(l!))).deep.equal(['along', 'aside'])
  })

  it('that is biased is found out within 60 answers, within a standard deviation or so', () => {
    const plants: readonly (Planted & { readonly kind: DrillKind })[] = [
      { kind: 'angle', measure: 'angle', factor: 'hyzer', by: -6 },
      { kind: 'turn', measure: 'turn', factor: 'nose-up', by: 0.8 },
      { kind: 'fade', measure: 'fade', factor: 'always', by: 0.6 },
    ]
    for (const plant of plants) {
      const asked = questions(60, [plant.kind])
      let [found, near, sum] = [0, 0, 0]
      const watchers = 40
      for (let w = 0; w < watchers; w++) {
        const eye = eyeOf(watched(asked, (0.003 + w * 0.0241) % 1, plant)).find(
          (e) => e.measure === plant.measure,
        )!
        const bias = eye.biases.find((b) => b.factor === plant.factor)!
        if (bias.isSure) found++
        if (Math.abs(bias.by.value - plant.by) <= bias.by.sd) near++
        sum += bias.by.value
        expect(eye.offSd / SD[plant.measure]).within(0.7, 1.4)
      }
      // an interval of one standard deviation holds it two times in three
      expect(near / watchers, plant.kind).greaterThan(0.5)
      expect(sum / watchers / plant.by, plant.kind).within(0.75, 1.1)
      expect(found / watchers, plant.kind).greaterThan(0.6)
    }
  })

  it('that is not biased is called biased in one of twenty at most', () => {
    const asked = questions(60)
    let called = 0
    const watchers = 100
    for (let w = 0; w < watchers; w++) {
      const eyes = eyeOf(watched(asked, (0.011 + w * 0.00937) % 1))
      expect(eyes.map((e) => e.measure)).deep.equal(['angle', 'turn', 'fade', 'along', 'aside'])
      if (eyes.some((e) => e.biases.some((b) => b.isSure))) called++
    }
    expect(called / watchers).most(0.05)
  })

  it('is as reliable as its errors are large, biases and all, once it was asked often enough', () => {
    const angles = (count: number, seed: number, planted?: Planted) =>
      reliabilityOf(watched(questions(count, ['angle']), seed, planted), 'angle')
    expect(angles(ENOUGH_ANSWERS - 1, 0.3)).equal(undefined)
    const many = angles(200, 0.3)!
    expect(many.answers).equal(200)
    expect(many.sd).closeTo(SD.angle, 0.6)
    // what it always sees wrongly counts too
    const biased = angles(200, 0.3, { measure: 'angle', factor: 'always', by: 6 })!
    expect(biased.sd).closeTo(Math.hypot(SD.angle, 6), 0.9)
    // of few answers it is drawn to that of a usual eye
    const sure = watched(questions(ENOUGH_ANSWERS, ['angle']), 0.3).map((a) => ({
      ...a,
      answer: { kind: 'range' as const, low: 0, high: 0 },
      truth: { kind: 'range' as const, value: 0 },
    }))
    expect(reliabilityOf(sure, 'angle')!.sd).within(2, 4)
    expect(reliabilityOf(watched(questions(30, ['landing']), 0.3), 'angle')).equal(undefined)
  })

  it('says nothing of what it was hardly asked', () => {
    expect(eyeOf(watched(questions(8), 0.4))).deep.equal([])
  })
})
