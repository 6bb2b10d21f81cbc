import { expect } from 'chai'
import { ratedFromShelf, sheetOf, shelvedDiscs } from '../../contract/sheet.ts'
import { harrowmere } from '../../demo/harrowmere.ts'
import { Trials } from '../../core/trial/trials.ts'
import type { Reading } from '../../core/trial/reading.ts'
import type { TrialView } from '../../web/data/hooks.ts'
import { unitsOf } from '../../web/data/units.ts'
import { factsOf, linesOf } from '../../web/stations/review/facts.ts'

const demo = harrowmere()
const metric = unitsOf('metric')

/** A trial of the demo as a screen has it. */
function viewOf(name: string): TrialView {
  const trial = demo.trials.find((t) => t.name === name)!
  const throws = demo.throws.filter((t) => t.trialId === trial.id && t.takenBackAt === null)
  const held = new Set(throws.map((t) => t.sessionId))
  const sessions = demo.sessions.filter((s) => held.has(s.id))
  const shelf = shelvedDiscs(demo)
  return {
    trial,
    file: { trial, throws, sessions },
    throws,
    takenBack: [],
    discs: trial.discIds.map((id) => shelf.find((d) => d.disc.id === id)!),
    throwers: demo.throwers,
    sessions,
  }
}

describe('the facts of a review', () => {
  const view = viewOf('Tarnwick in four plastics')
  const codes = new Map(view.discs.map((d) => [d.disc.code, d.disc.code]))
  const name = (code: string) => codes.get(code) ?? code
  let reading: Reading
  before(async () => {
    const engine = new Trials({ now: () => 0, breathe: () => Promise.resolve() })
    const discs = view.discs.map((d) => ratedFromShelf(d, view.trial.controlDiscId))
    const thrown = { sheet: sheetOf(view.file, view.discs, view.throwers), discs }
    reading = (await engine.weigh('demo', thrown, { sheet: [], discs: [] }))!
  })
  const facts = (of: TrialView = view) => factsOf(of, reading, {}, 'plastics', [], [], metric, name)

  it('name every disc with its lineage, what it weighs and where it came from, the control disc among them', () => {
    const { discs } = facts()
    expect(discs.map((d) => d.code)).deep.equal(view.discs.map((d) => d.disc.code))
    expect(discs.filter((d) => d.control)).to.have.length(view.trial.controlDiscId === null ? 0 : 1)
    for (const d of discs) {
      expect(d.lineage, d.code).match(/\S/)
      expect(d.grams ?? 175, d.code).within(120, 200)
    }
  })

  it('count what counted, and every reason for which a throw does not', () => {
    const { counted, leftOut } = facts()
    expect(counted).equal(view.throws.filter((t) => t.counts).length)
    expect(leftOut.reduce((n, l) => n + l.count, 0)).equal(view.throws.length - counted)
    const nobodySaid = view.throws.map((t, i) => (i < 2 ? { ...t, counts: false, whyNot: null } : t))
    const more = facts({ ...view, throws: nobodySaid }).leftOut
    expect(more.find((l) => l.why === 'no reason noted')!.count).equal(2)
  })

  it('say what became of what was expected before the first throw, and nothing where nobody expected anything', () => {
    const [a, b] = view.discs.map((d) => d.disc.id).filter((id) => id !== view.trial.controlDiscId)
    const plan = { ...view.trial.plan!, expected: [a!, b!], claims: ['It will stand up.'], built: [] }
    const { expected } = facts({ ...view, trial: { ...view.trial, plan } })
    expect(expected[0]).match(
      new RegExp(
        `^${codeOf(a!)} was expected over ${codeOf(b!)}: (as expected|the other way|not settled), \\d+ %$`,
      ),
    )
    expect(expected[1]).equal('Claimed: It will stand up.')
    expect(facts({ ...view, trial: { ...view.trial, plan: null } }).expected).deep.equal([])
  })
  const codeOf = (id: string) => view.discs.find((d) => d.disc.id === id)!.disc.code

  it('caution where throws hit trees, where it was hot or cold, and where an arm threw much', () => {
    const calm = {
      ...view,
      throws: view.throws.slice(0, 5).map((t) => ({ ...t, counts: true, whyNot: null })),
    }
    const on = (of: Partial<TrialView>, temperatureC: number | null = 18) =>
      facts({ ...calm, ...of, sessions: view.sessions.map((s) => ({ ...s, temperatureC })) }).cautions
    expect(on({})).deep.equal([])
    expect(on({}, null)).deep.equal([])
    expect(on({}, 31).join()).match(/^It was hot/)
    expect(on({}, 3).join()).match(/^It was cold/)
    const [first, ...rest] = calm.throws
    const hit = { ...first!, counts: false, whyNot: 'hit a branch' }
    expect(on({ throws: [hit, ...rest] }).join()).match(/branches/)
    const many = Array.from({ length: 60 }, () => first!)
    expect(on({ throws: many }).join()).match(/medical advice/)
    expect(on({ throws: many.slice(1) })).deep.equal([])
  })

  it('list release angles from hyzer to anhyzer, each once', () => {
    const words = facts().angles.split(', ')
    expect(new Set(words).size).equal(words.length)
    expect(words).to.have.length(new Set(view.throws.map((t) => t.hyzerDeg)).size)
    expect(words[0]).contain('hyzer')
  })
})

describe('lines of a review', () => {
  it('say the angle that brings a disc back, with what is not known of it, and no disc that none brings back', () => {
    const told = {
      angles: [
        { disc: 'A', found: true, hyzerRad: 0.2, sdRad: 0.02 },
        { disc: 'B', found: false },
      ],
    } as unknown as Parameters<typeof linesOf>[0]
    expect(linesOf(told, 'Ida, backhand at full power', (c) => `Disc ${c}`)).deep.equal([
      'Disc A finishes on the line at 11° hyzer (±2°), thrown by Ida, backhand at full power in still air',
    ])
    expect(linesOf(undefined, undefined, String)).deep.equal([])
  })
})
