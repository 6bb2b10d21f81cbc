import { expect } from 'chai'
import fc from 'fast-check'
import type { Measured } from '../../../core/shelf/inspection.ts'
import { rimSection } from '../../../core/shelf/rim.ts'
import type { RimSection } from '../../../core/shelf/rim.ts'

const measured = (change: Partial<Measured> = {}): Measured => ({
  diameterMm: 211,
  heightMm: 17,
  rimDepthMm: 12.2,
  rimWidthMm: 19,
  partingLineMm: 7,
  domeMm: 3,
  noseDeg: 38,
  bead: false,
  edge: 1,
  stiffness: null,
  grip: null,
  ...change,
})
const drawn = (m: Measured): RimSection => {
  const section = rimSection(m)
  if (!('outline' in section)) throw new Error(JSON.stringify(section))
  return section
}
/** Any disc somebody could have measured without a contradiction. */
const anyDisc = fc
  .record({
    diameterMm: fc.double({ min: 200, max: 230, noNaN: true }),
    heightMm: fc.double({ min: 14, max: 24, noNaN: true }),
    rimWidthMm: fc.double({ min: 8, max: 25, noNaN: true }),
    depth: fc.double({ min: 0.5, max: 0.75, noNaN: true }),
    parting: fc.double({ min: 0.2, max: 0.7, noNaN: true }),
    domeMm: fc.double({ min: 0, max: 6, noNaN: true }),
    noseDeg: fc.option(fc.double({ min: 15, max: 70, noNaN: true }), { nil: null }),
    edge: fc.option(fc.nat(4), { nil: null }),
    bead: fc.option(fc.boolean(), { nil: null }),
  })
  .map(({ depth, parting, ...d }) =>
    measured({
      ...d,
      rimDepthMm: depth * (d.heightMm - d.domeMm),
      partingLineMm: parting * (d.heightMm - d.domeMm),
    }),
  )

describe('the section of a rim', () => {
  it('passes through every figure measured, and stays within the disc', () => {
    fc.assert(
      fc.property(anyDisc, (m) => {
        const { outline, innerMm } = drawn(m)
        const radius = m.diameterMm! / 2
        const near = (x: number, y: number) =>
          expect(Math.min(...outline.map((p) => Math.hypot(p[0] - x, p[1] - y))), `${x} ${y}`).lessThan(1e-9)
        near(radius, m.partingLineMm!)
        near(0, m.heightMm!)
        near(radius - m.rimWidthMm!, m.heightMm! - m.domeMm!)
        for (const [x, y] of outline) {
          expect(Number.isFinite(x) && Number.isFinite(y)).equal(true)
          expect(x).within(-1e-9, radius + 1e-9)
          expect(y).within(-1e-9, m.heightMm! + 1e-9)
        }
        // the inner wall stands at the rim’s width and ends under the plate at the rim’s depth
        const wall = outline.filter((p) => Math.abs(p[0] - innerMm) < 1e-9 && p[1] < m.rimDepthMm!)
        expect(wall.length).greaterThan(1)
        // after the outer face has come down to the base, what lies inside is the underside of the plate
        const foot = outline.findIndex((p) => p[1] < 1e-9)
        const under = outline.slice(foot).filter((p) => p[0] < innerMm - 2.3)
        expect(Math.min(...under.map((p) => p[1]))).within(
          m.rimDepthMm! - 1e-9,
          m.rimDepthMm! + 0.35 * m.domeMm! + 1e-9,
        )
        near(innerMm - Math.min(2.2, m.rimWidthMm! / 3, m.rimDepthMm! / 3), m.rimDepthMm!)
        expect(Math.min(...outline.map((p) => p[1]))).closeTo(0, 1e-9)
      }),
    )
  })

  it('is widest at the parting line only', () => {
    fc.assert(
      fc.property(anyDisc, (m) => {
        const { outline, radiusMm } = drawn(m)
        const tips = outline.filter((p) => p[0] > radiusMm - 1e-9)
        for (const [, y] of tips) expect(y).closeTo(m.partingLineMm!, 1e-9)
      }),
    )
  })

  it('has a foot that is further in for a flatter nose', () => {
    const foot = (noseDeg: number) =>
      Math.max(
        ...drawn(measured({ noseDeg }))
          .outline.filter((p) => p[1] < 1e-9)
          .map((p) => p[0]),
      )
    expect(foot(30)).lessThan(foot(45))
    expect(foot(45)).lessThan(foot(60))
  })

  it('says what was not measured: drawn as is usual, or not at all', () => {
    expect(drawn(measured({ domeMm: null, noseDeg: null, edge: null })).assumed).deep.equal([
      'dome',
      'nose angle',
      'edge',
    ])
    expect(drawn(measured()).assumed).deep.equal([])
    expect(rimSection(measured({ diameterMm: null, partingLineMm: null }))).deep.equal({
      missing: ['diameter', 'parting line'],
    })
  })

  it('says what cannot be', () => {
    const conflict = (change: Partial<Measured>) => {
      const section = rimSection(measured(change))
      return 'conflict' in section ? section.conflict : undefined
    }
    expect(conflict({ rimDepthMm: 20 })).match(/20 mm deep but the disc only 17 mm high/)
    expect(conflict({ partingLineMm: 15 })).match(/above the shoulder/)
  })
})
