import { expect } from 'chai'
import type { Throw, Thrower } from '../../contract/trials.ts'
import { emptySheet, keptRows, readRow, sheetAfter, storedIds } from '../../web/stations/plan/sheet.ts'
import type { Column, SheetEvent, SheetOf, SheetState } from '../../web/stations/plan/sheet.ts'

const id = (n: number) => `01900000-0000-7000-8000-0000000000${n}`
const odile: Thrower = {
  id: id(10),
  name: 'Odile Fenn',
  hand: 'left',
  backhandMps: 25,
  forehandMps: null,
  budget: null,
}
const AT = Date.parse('2026-05-03T09:00:00Z')
const planned: SheetOf['planned'] = (['out', 'back'] as const).map((leg) => ({
  discId: id(20),
  hyzerDeg: 10,
  leg,
  stroke: 'backhand',
  power: 0.9,
  throwerId: null,
}))
const of = (change: Partial<SheetOf> = {}): SheetOf => ({
  trialId: id(30),
  plan: { protocol: 'same-release' },
  planned,
  throwers: [odile],
  inM: (length) => length,
  inMps: (speed) => speed,
  startedAtMs: AT,
  ...change,
})
const empty = emptySheet(id(40), { startsAt: null }, undefined, [odile], AT)
const typed = (state: SheetState, line: number, cells: Partial<Record<Column, string>>): SheetState =>
  Object.entries(cells).reduce(
    (s, [column, text]) =>
      sheetAfter(s, { did: 'typed', line, column: column as Column, text, id: id(50 + line) }),
    state,
  )
const after = (state: SheetState, ...events: readonly SheetEvent[]) => events.reduce(sheetAfter, state)
const thrown = (state: SheetState, line = 0, sheet = of()) => readRow(state, line, sheet) as Throw

describe('a sheet that is typed in', () => {
  it('begins where the plan says, paced, by the first thrower, and says nothing before a letter is typed', () => {
    expect(empty.session).include({ id: id(40), day: '2026-05-03', method: 'paced' })
    expect(empty.throwerId).equal(odile.id)
    expect(readRow(empty, 0, of())).equal(undefined)
    expect(readRow(typed(empty, 0, { down: '  ' }), 0, of())).equal(undefined)
  })

  it('says a throw: as it was pencilled, in metres, on its leg, by its thrower', () => {
    const row = typed(empty, 0, { down: '81,5', side: '4 L', hang: '3.9', called: '−2' })
    expect(thrown(row)).include({
      id: id(50),
      discId: id(20),
      throwerId: odile.id,
      hand: 'left',
      carryM: 81.5,
      rightM: -4,
      hangS: 3.9,
      hyzerDeg: 10,
      hyzerCalledDeg: -2,
      counts: true,
      windAlongMps: null,
    })
    const feet = thrown(row, 0, of({ inM: (length) => 0.3048 * length }))
    expect([feet.carryM, feet.rightM]).deep.equal([24.8, -1.2])
    // on the line the angle it took is what was meant
    expect(thrown(row, 0, of({ plan: { protocol: 'same-line' } })).hyzerDeg).equal(-2)
    expect(thrown(typed(row, 0, { called: '' }), 0, of({ plan: { protocol: 'same-line' } })).hyzerDeg).equal(
      10,
    )
  })

  it('has the headwind of the way out from behind on the way back, and rows one after another', () => {
    const windy = after(empty, { did: 'noted headwind', mps: 3 })
    const both = typed(typed(windy, 0, { down: '80' }), 1, { down: '90' })
    expect([thrown(both, 0).windAlongMps, thrown(both, 1).windAlongMps]).deep.equal([-3, 3])
    // a wind beside a throw is that throw’s alone, whichever way it went
    const own = typed(typed(both, 0, { wind: '−1,5' }), 1, { wind: '4' })
    expect([thrown(own, 0).windAlongMps, thrown(own, 1).windAlongMps]).deep.equal([1.5, -4])
    expect(thrown(typed(empty, 0, { down: '80', wind: '2' })).windAlongMps).equal(-2)
    const miles = of({ inMps: (mph) => 0.447 * mph })
    expect(thrown(typed(empty, 0, { down: '80', wind: '10' }), 0, miles).windAlongMps).equal(-4.5)
    expect(readRow(typed(empty, 0, { down: '80', wind: 'gusty' }), 0, of())).match(
      /Wind is “gusty”; write how fast/,
    )
    expect(Date.parse(thrown(both, 1).thrownAt)).greaterThan(Date.parse(thrown(both, 0).thrownAt))
    const before = after(both, { did: 'changed outing', change: { day: '2026-04-30' } })
    expect(thrown(before).thrownAt).match(/^2026-04-30|^2026-05-01/)
  })

  it('does not count with a reason, and says in a sentence what is wrong', () => {
    const why = typed(empty, 0, { down: '60', why: ' hit a branch ' })
    expect(thrown(why)).include({ counts: false, whyNot: 'hit a branch' })
    const wrongs: [Partial<Record<Column, string>>, RegExp][] = [
      [{ side: '4 L' }, /^Down is “”/],
      [{ down: 'far' }, /^Down is “far”/],
      [{ down: '80', side: '4' }, /^Side is “4”; write the side too/],
      [{ down: '80', hang: 'long' }, /^Hang time is “long”/],
      [{ down: '80', called: 'steep' }, /^Angle is “steep”/],
      [{ down: '9000' }, /\.$/],
    ]
    for (const [cells, sentence] of wrongs) expect(readRow(typed(empty, 0, cells), 0, of())).match(sentence)
    expect(readRow(typed(empty, 0, { down: '80' }), 0, of({ throwers: [] }))).equal('Choose who threw.')
    const noted = after(typed(empty, 0, { down: 'far' }), { did: 'found wrong', line: 0, sentence: 'No.' })
    expect(noted.rows[0]!.wrong).equal('No.')
    expect(typed(noted, 0, { down: '8' }).rows[0]!.wrong).equal(undefined)
  })

  it('is one throw however often it is kept, and not kept while it was typed on', () => {
    const row = typed(empty, 0, { down: '80' })
    const kept = after(row, { did: 'kept', line: 0, row: row.rows[0]! })
    expect(keptRows(kept)).equal(1)
    const edited = typed(kept, 0, { side: '2 R' })
    expect(edited.rows[0]!.id).equal(row.rows[0]!.id)
    expect([keptRows(edited), storedIds(edited)]).deep.equal([0, [id(50)]])
    // an answer that comes after more was typed
    const late = after(edited, { did: 'kept', line: 0, row: row.rows[0]! })
    expect(keptRows(late)).equal(0)
    expect(keptRows(after(late, { did: 'kept', line: 0, row: late.rows[0]! }))).equal(1)
  })

  it('is empty once it was taken back, its outing as it was', () => {
    const row = typed(after(empty, { did: 'chose thrower', throwerId: id(11) }), 0, { down: '80' })
    const back = after(row, { did: 'kept', line: 0, row: row.rows[0]! }, { did: 'took back' })
    expect(back.rows).deep.equal({})
    expect(back.throwerId).equal(id(11))
    expect(storedIds(back)).deep.equal([])
    // what was on its way when it was taken back is not there again
    expect(after(back, { did: 'kept', line: 0, row: row.rows[0]! }).rows).deep.equal({})
  })
})
