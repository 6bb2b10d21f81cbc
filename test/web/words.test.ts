import { expect } from 'chai'
import fc from 'fast-check'
import { shelvedDiscs } from '../../contract/sheet.ts'
import { trialNames, withCode } from '../../contract/naming.ts'
import { angleWords, aside, figure, halves, percent, unitsOf } from '../../web/data/units.ts'
import { valueWords } from '../../web/data/valueWords.ts'
import { harrowmere } from '../../demo/harrowmere.ts'

describe('figures as people read them', () => {
  it('have a real minus and no minus zero', () => {
    expect(figure(-1.26, 1)).equal('−1.3')
    expect(figure(-0.04, 1)).equal('0.0')
    expect(halves(-0.2)).equal(0)
    expect(halves(1.3)).equal(1.5)
  })

  it('never say a probability is certain or rounds up past a bound', () => {
    expect(percent(0.9999)).equal('99 %')
    expect(percent(0.0001)).equal('1 %')
    expect(percent(0.899)).equal('89 %')
    expect(percent(0.9)).equal('90 %')
  })

  it('name angles and sides', () => {
    expect(angleWords(10)).equal('10° hyzer')
    expect(angleWords(0)).equal('flat')
    expect(angleWords(-7.5)).equal('7.5° anhyzer')
    expect(aside(unitsOf('metric'), -3.26)).equal('3.3 m left')
    expect(aside(unitsOf('imperial'), 3.048)).equal('10.0 ft right')
    expect(aside(unitsOf('metric'), 0.01)).equal('on the line')
  })

  it('of a row’s field are in the user’s units, and in words where they are no figures', () => {
    const [metric, imperial] = [unitsOf('metric'), unitsOf('imperial')]
    expect(valueWords(metric, 'backhandMps', 24)).equal('24.0 m/s')
    expect(valueWords(imperial, 'backhandMps', 24)).equal('53.7 mph')
    expect(valueWords(imperial, 'altitudeM', 3.048)).equal('10.0 ft')
    expect(valueWords(imperial, 'temperatureC', 0)).equal('32.0 °F')
    expect(valueWords(metric, 'hyzerDeg', -10)).equal('−10.0°')
    expect(valueWords(metric, 'throwsADay', 60)).equal('60')
    expect(valueWords(metric, 'weighedG', 173.26)).equal('173.3 g')
    expect(valueWords(metric, 'alongMps', [1, -2])).equal('1.0 m/s, −2.0 m/s')
    expect(valueWords(metric, 'day', '2026-05-09')).equal('9 May 2026')
    expect(valueWords(metric, 'takenBackAt', '2026-05-09T12:00:00.000Z')).match(/^9 May 2026, \d+:00$/)
    expect(valueWords(metric, 'place', 'Weir meadow')).equal('Weir meadow')
    expect(valueWords(metric, 'note', '')).equal('nothing')
    expect(valueWords(metric, 'listed', true)).equal('yes')
    expect(valueWords(metric, 'runId', '0193a1d2-0000-7000-8000-000000000000')).equal('another')
  })

  it('come back from the unit they were shown in', () => {
    fc.assert(
      fc.property(fc.double({ min: -300, max: 300, noNaN: true }), (v) => {
        for (const kind of ['metric', 'imperial'] as const) {
          const { length, speed, temperature } = unitsOf(kind)
          for (const m of [length, speed, temperature]) expect(m.from(m.to(v))).closeTo(v, 1e-9)
        }
      }),
    )
  })
})

describe('names of a trial’s discs', () => {
  const demo = harrowmere()
  const shelved = shelvedDiscs(demo)
  const named = (codes: string[]) => trialNames(codes.map((c) => shelved.find((d) => d.disc.code === c)!))

  it('stand beside their code once', () => {
    expect(withCode('HS-017', 'Loam')).equal('HS-017 Loam')
    expect(withCode('HS-017', 'Loam HS-017')).equal('Loam HS-017')
  })

  it('are as short as tells them apart', () => {
    expect([...named(['HS-033', 'HS-011', 'HS-017']).values()]).deep.equal([
      'Skelmire',
      'Harrogill',
      'Tarnwick',
    ])
    expect([...named(['HS-021', 'HS-017', 'HS-009', 'HS-002']).values()]).deep.equal([
      'Slate',
      'Loam, new',
      'Loam, beaten',
      'Pennrath',
    ])
  })

  it('never fall together, whichever discs are in the trial', () => {
    const codes = shelved.map((d) => d.disc.code)
    fc.assert(
      fc.property(fc.subarray(codes, { minLength: 1 }), (some) => {
        expect(new Set(named(some).values()).size).equal(some.length)
      }),
    )
  })
})
