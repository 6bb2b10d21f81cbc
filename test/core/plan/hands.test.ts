import { expect } from 'chai'
import fc from 'fast-check'
import { heldByOthers } from '../../../core/plan/hands.ts'
import type { HandToThrow } from '../../../core/plan/hands.ts'
import { remainingThrows } from '../../../core/plan/order.ts'
import { thrownTwice } from '../../../core/plan/twice.ts'
import type { LoggedThrow } from '../../../core/plan/twice.ts'

const PROTOCOL = 'same-release'

describe('throws in the hands of several devices', () => {
  it('are divided: once everybody has heard of everybody, no throw is in two hands', () => {
    const discs = ['a', 'b', 'c', 'd']
    const planned = fc.array(
      fc.record({ disc: fc.constantFrom(...discs), hyzerDeg: fc.constantFrom(0, 10) }),
      {
        minLength: 8,
        maxLength: 30,
      },
    )
    fc.assert(
      fc.property(
        planned,
        fc.integer({ min: 2, max: 5 }),
        fc.infiniteStream(fc.nat(4)),
        (plan, devices, turns) => {
          // what each device knew last of the others’ hands; news travels when it travels
          let clock = 0
          let hands: HandToThrow[] = []
          const next = (device: string): HandToThrow | undefined => {
            const [first] = remainingThrows(plan, heldByOthers(hands, device, PROTOCOL), PROTOCOL)
            return first && { ...first, device, since: 0 }
          }
          const names = Array.from({ length: devices }, (_, i) => `phone ${i}`)
          // at first nobody knows of anybody: all take the first throw
          hands = names.map((device) => ({ ...plan[0]!, device, since: clock++ }))
          for (let step = 0; step < 12 * devices; step++) {
            const device = names[turns.next().value! % devices]!
            const now = next(device)
            const before = hands.find((h) => h.device === device)
            if (!now || (before && before.disc === now.disc && before.hyzerDeg === now.hyzerDeg)) continue
            hands = [...hands.filter((h) => h.device !== device), { ...now, since: clock++ }]
          }
          for (const device of names) {
            const now = next(device)
            const before = hands.find((h) => h.device === device)
            if (now && (before?.disc !== now.disc || before.hyzerDeg !== now.hyzerDeg))
              hands = [...hands.filter((h) => h.device !== device), { ...now, since: clock++ }]
          }
          // as many of a kind are held as the plan has of it, at most
          for (const h of hands) {
            const like = (t: { disc: string; hyzerDeg: number }) =>
              t.disc === h.disc && t.hyzerDeg === h.hyzerDeg
            expect(hands.filter(like).length).to.be.at.most(plan.filter(like).length)
          }
        },
      ),
      { numRuns: 300, seed: 7 },
    )
  })

  it('stay with whoever had them first', () => {
    const held = (device: string, since: number): HandToThrow => ({ device, since, disc: 'a', hyzerDeg: 0 })
    const hands = [held('one', 1), held('two', 2)]
    expect(heldByOthers(hands, 'one', PROTOCOL)).to.deep.equal([])
    expect(heldByOthers(hands, 'two', PROTOCOL)).to.deep.equal([hands[0]])
    // somebody who only looks on takes nothing from either
    expect(heldByOthers(hands, 'three', PROTOCOL)).to.deep.equal(hands)
  })
})

describe('a throw that two devices made', () => {
  const thrown = (id: string, by: string | undefined, atS: number, disc = 'a'): LoggedThrow => ({
    id,
    by,
    at: 1000 * atS,
    disc,
    hyzerDeg: 0,
  })
  const plan = [
    { disc: 'a', hyzerDeg: 0 },
    { disc: 'b', hyzerDeg: 0 },
  ]
  const ids = (throws: LoggedThrow[], planned = plan) =>
    thrownTwice(throws, planned, PROTOCOL).map((pair) => pair.map((t) => t.id))
  it('is found', () =>
    expect(ids([thrown('1', 'Ida', 0), thrown('2', 'Orla', 40)])).to.deep.equal([['1', '2']]))
  it('is none where the plan wanted two', () =>
    expect(ids([thrown('1', 'Ida', 0), thrown('2', 'Orla', 40)], [...plan, ...plan])).to.deep.equal([]))
  it('is none on one device, an hour apart, or of another disc', () => {
    expect(ids([thrown('1', 'Ida', 0), thrown('2', 'Ida', 40)])).to.deep.equal([])
    expect(ids([thrown('1', 'Ida', 0), thrown('2', 'Orla', 3600)])).to.deep.equal([])
    expect(ids([thrown('1', 'Ida', 0), thrown('2', 'Orla', 40, 'b')])).to.deep.equal([])
  })
  it('is none where nobody knows who logged it', () =>
    expect(ids([thrown('1', undefined, 0), thrown('2', 'Orla', 40)])).to.deep.equal([]))
})
