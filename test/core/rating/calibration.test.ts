import { expect } from 'chai'
import { calibrate, DESIGNS, orderTable, table } from '../../simulate/calibrate.ts'
import type { Calibration } from '../../simulate/calibrate.ts'

const design = (words: string) => {
  const found = DESIGNS.find(([w]) => w.startsWith(words))
  if (!found) throw new Error(`no design ${words}`)
  return found
}
const run = (words: string, sessions: number, first: number): Calibration => {
  const [w, d] = design(words)
  return calibrate(w, d, sessions, first)
}

describe('calibration', () => {
  const list = [
    run('angles called, hang timed', 24, 11),
    run('kin', 24, 22),
    run('gusts of 1', 24, 33),
    run('rough', 24, 44),
  ]

  it('holds the truth about as often as its intervals say, in careful and in rough sessions', () => {
    for (const c of list)
      for (const [name, [half, eight, nine, most]] of Object.entries(c.held) as [string, number[]][]) {
        expect(half, `${c.words}: ${name} at 50 %`).within(0.36, 0.7)
        expect(eight, `${c.words}: ${name} at 80 %`).within(0.67, 0.93)
        expect(nine, `${c.words}: ${name} at 90 %`).within(0.78, 0.99)
        expect(most, `${c.words}: ${name} at 95 %`).within(0.85, 1)
      }
  })

  it('is right about orders about as often as it says', () => {
    const all = [0, 1, 2, 3, 4].map((i) => {
      const count = list.reduce((s, c) => s + c.orders[i]!.count, 0)
      const mean = (key: 'stated' | 'right') =>
        list.reduce(
          (s, c) => s + (c.orders[i]!.count === 0 ? 0 : c.orders[i]![key] * c.orders[i]!.count),
          0,
        ) / count
      return { count, stated: mean('stated'), right: mean('right') }
    })
    for (const { count, stated, right } of all) {
      expect(count).greaterThan(60)
      // three standard errors of so many orders, which of one session go together
      const error = 3 * Math.sqrt((2 * stated * (1 - stated)) / count)
      expect(right - stated).within(-error, error)
    }
    // nearly every pair is told apart, and those surely
    expect(all[4]!.count).greaterThan(all[0]!.count)
    expect(all[4]!.right).greaterThan(0.94)
  })

  it('writes its tables with a row for every kind of session', () => {
    expect(table(list).split('\n')).length(2 + list.length)
    expect(orderTable(list)).match(/rough.*→/)
  })
})
