import { expect } from 'chai'
import { range, rollup } from 'd3'
import fc from 'fast-check'
import { effortOf } from '../../../core/plan/effort.ts'
import { orderThrows, remainingThrows, williams } from '../../../core/plan/order.ts'
import { LEGS } from '../../../core/throw/leg.ts'
import type { CellCount, OrderedThrow } from '../../../core/plan/order.ts'

const even = (discs: number, angles: readonly number[], throws: number): CellCount[] =>
  range(discs).flatMap((d) =>
    angles.flatMap((hyzerDeg) => LEGS.map((leg) => ({ disc: `d${d}`, hyzerDeg, leg, throws }))),
  )
const anyCounts = fc
  .array(fc.tuple(fc.nat(5), fc.constantFrom(10, 0, -8), fc.constantFrom(...LEGS), fc.nat(5)), {
    maxLength: 24,
  })
  .map((list) => [
    ...new Map(
      list.map(([d, hyzerDeg, leg, throws]) => [
        `${d} ${hyzerDeg} ${leg}`,
        { disc: `d${d}`, hyzerDeg, leg, throws },
      ]),
    ).values(),
  ])
const seeds = fc.nat(1e6)
const tally = (throws: readonly OrderedThrow[]) =>
  rollup(
    throws,
    (v) => v.length,
    (t) => `${t.disc} ${t.hyzerDeg} ${t.leg}`,
  )

describe('Williams designs', () => {
  it('have every treatment in every position, and after every other, equally often', () => {
    for (const n of range(2, 10)) {
      const rows = williams(n)
      const times = rows.length / n
      expect(rows.length).equal(n % 2 === 0 ? n : 2 * n)
      for (const p of range(n))
        for (const v of range(n)) expect(rows.filter((r) => r[p] === v).length).equal(times)
      const after = rollup(
        rows.flatMap((r) => range(1, n).map((p) => `${r[p - 1]} ${r[p]}`)),
        (v) => v.length,
        (k) => k,
      )
      expect(after.size).equal(n * (n - 1))
      for (const count of after.values()) expect(count).equal(times)
    }
    expect(williams(0)).deep.equal([])
    expect(williams(1).map((r) => r.length)).deep.equal([1, 1])
  })
})

describe('the order of a plan', () => {
  it('holds every throw of the counts and no other, each disc once a round, out and back by turns', () => {
    fc.assert(
      fc.property(anyCounts, seeds, fc.boolean(), (counts, seed, shuffled) => {
        const order = orderThrows(counts, shuffled ? { kind: 'shuffled', seed } : { kind: 'fixed' })
        const want = new Map(
          counts.filter((c) => c.throws > 0).map((c) => [`${c.disc} ${c.hyzerDeg} ${c.leg}`, c.throws]),
        )
        expect([...tally(order)].sort()).deep.equal([...want].sort())
        const rounds = rollup(
          order,
          (v) => v,
          (t) => t.round,
        )
        for (const round of rounds.values()) {
          expect(new Set(round.map((t) => t.disc)).size).equal(round.length)
          expect(new Set(round.map((t) => t.leg)).size).equal(1)
        }
        order.forEach((t, i) =>
          expect(t.round).within(order[i - 1]?.round ?? 0, (order[i - 1]?.round ?? 0) + 1),
        )
      }),
    )
  })

  it('is the same for the same seed and another for another', () => {
    const counts = even(5, [10, 0, -8], 2)
    const by = (seed: number) => orderThrows(counts, { kind: 'shuffled', seed })
    expect(by(7)).deep.equal(by(7))
    expect(by(8)).not.deep.equal(by(7))
  })

  it('balances time, position and predecessor within each leg of an even plan', () => {
    for (const n of [4, 6]) {
      // as many rounds a leg as the design has rows
      const counts = even(n, [0], n)
      for (const seed of [1, 2, 3])
        for (const leg of LEGS) {
          const order = orderThrows(counts, { kind: 'shuffled', seed }).filter((t) => t.leg === leg)
          const rounds = [...new Set(order.map((t) => t.round))].map((r) =>
            order.filter((t) => t.round === r).map((t) => t.disc),
          )
          for (const d of range(n).map((i) => `d${i}`)) {
            const places = rounds.map((r) => r.indexOf(d)).sort((a, b) => a - b)
            expect(places).deep.equal(range(n))
            const before = rounds.map((r) => r[r.indexOf(d) - 1]).filter((b) => b !== undefined)
            expect(new Set(before).size).equal(n - 1)
          }
        }
    }
  })

  it('keeps a fixed order as it was given', () => {
    const order = orderThrows(even(3, [10, 0], 2), { kind: 'fixed' })
    for (const r of new Set(order.map((t) => t.round)))
      expect(order.filter((t) => t.round === r).map((t) => t.disc)).deep.equal(['d0', 'd1', 'd2'])
  })

  it('spreads a disc with fewer throws over the rounds', () => {
    const counts: CellCount[] = [
      { disc: 'often', hyzerDeg: 0, leg: 'out', throws: 12 },
      { disc: 'seldom', hyzerDeg: 0, leg: 'out', throws: 3 },
    ]
    const at = orderThrows(counts, { kind: 'shuffled', seed: 5 })
      .filter((t) => t.disc === 'seldom')
      .map((t) => t.round)
    expect(at[1]! - at[0]!).within(3, 5)
    expect(at[2]! - at[1]!).within(3, 5)
  })

  it('goes on with what has not been thrown', () => {
    const order = orderThrows(even(3, [0, 10], 1), { kind: 'shuffled', seed: 3 })
    expect(remainingThrows(order, [])).deep.equal(order)
    expect(remainingThrows(order, order.slice(0, 4))).deep.equal(order.slice(4))
    expect(remainingThrows(order, order)).deep.equal([])
    // on the line a throw is the disc's, whatever angle it took
    const { disc } = order[3]!
    const took = { disc, hyzerDeg: 17 }
    expect(remainingThrows(order, [took])).deep.equal(order)
    const left = remainingThrows(order, [took], 'same-line')
    expect(order.length - left.length).equal(1)
    expect(left.filter((t) => t.disc === disc).length).equal(order.filter((t) => t.disc === disc).length - 1)
    // one out of turn takes the earliest of its like off, and one nobody planned takes none
    const stray = { disc: 'other', hyzerDeg: 0 }
    expect(remainingThrows(order, [order[5]!, stray]).length).equal(order.length - 1)
  })
})

describe('the effort of a plan', () => {
  it('counts a walk a round, and minutes for throws and walks', () => {
    const order = orderThrows(even(4, [0], 2), { kind: 'shuffled', seed: 1 })
    const at = (power: number) => order.map((t) => ({ ...t, power, thrower: null }))
    const effort = effortOf(at(1), () => 100)
    expect(effort).include({ throws: 16, fullPower: 16, walkM: 400 })
    expect(effort.minutes).within(14, 22)
    expect(effortOf(at(0.6), () => 60)).include({ fullPower: 0, walkM: 240 })
    expect(effortOf([], () => 100)).deep.equal({
      throws: 0,
      fullPower: 0,
      minutes: 0,
      walkM: 0,
      arms: [],
    })
  })
})
