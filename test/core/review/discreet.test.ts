import { expect } from 'chai'
import type { SheetThrow } from '../../../core/throw/sheetThrow.ts'
import { readThrowsCsv, writeThrowsCsv } from '../../../core/formats/throwsCsv.ts'
import { aliasesOf, discreet, withAliases } from '../../../core/review/discreet.ts'

const numbers = { speed: 9, glide: 5, turn: -1, fade: 2 }
const thrown = (thrower: string, notes?: Record<string, string>): SheetThrow => ({
  ...{ thrower, hand: 'right', stroke: 'backhand', disc: 'HS-017', ...numbers, hyzerDeg: 0 },
  ...{ throw: '', power: 1, carryM: 81, rightM: -4, counts: true },
  ...(notes && { notes }),
})

describe('what is handed out beside a review', () => {
  const shown = 'Ida threw twelve. One slipped out of a wet hand.'
  const sheet = [
    thrown('Ida', { grip: 'slipped out of a wet hand', own: 'do not tell Bryn' }),
    thrown('Bryn', { own: 'tired' }),
    thrown('Orla'),
    thrown('Bryn'),
  ]

  it('names people whom the review names, and tells the others apart all the same', () => {
    expect(discreet(sheet, shown).map((t) => t.thrower)).to.deep.equal([
      'Ida',
      'Thrower 1',
      'Thrower 2',
      'Thrower 1',
    ])
  })

  it('holds notes that are shown and no other, and every figure', () => {
    const csv = writeThrowsCsv(discreet(sheet, shown))
    expect(csv).to.include('wet hand')
    for (const secret of ['Bryn', 'Orla', 'tired']) expect(csv).to.not.include(secret)
    const read = readThrowsCsv(csv)
    expect(read.ok && read.throws.map((t) => [t.carryM, t.rightM, t.disc])).to.deep.equal(
      sheet.map((t) => [t.carryM, t.rightM, t.disc]),
    )
  })

  it('speaks of them by those names everywhere', () => {
    const aliases = aliasesOf(['Bo', 'Bob', 'Ida'], shown)
    expect(withAliases('{"arm":"Bob","next":"Bo","other":"Ida"}', aliases)).to.equal(
      '{"arm":"Thrower 2","next":"Thrower 1","other":"Ida"}',
    )
  })
})
