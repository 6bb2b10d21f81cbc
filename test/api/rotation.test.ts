import { expect } from 'chai'
import request from 'supertest'
import { v7 as newId } from 'uuid'
import { demoId } from '../../demo/shed.ts'
import type { Board, DiscEvent, JobRow } from '../../contract/rotation.ts'
import { ratedDemoServer } from './server.ts'
import type { TestServer } from './server.ts'

const TURN = demoId('job', 'Late turn driver')
const disc = (code: string) => demoId('disc', code)

describe('the rotation', () => {
  let it_: TestServer
  before(async function () {
    this.timeout(180_000)
    it_ = await ratedDemoServer()
  })
  after(() => it_.stop())
  const api = () => request(it_.server)
  /** The board once its re-tests are weighed. */
  async function board(): Promise<Board> {
    for (;;) {
      const now = (await api().get('/api/rotation').expect(200)).body as Board
      if (!now.weighing) return now
      await new Promise((r) => setTimeout(r, 50))
    }
  }
  const on = (b: Board, code: string, jobId = TURN) =>
    b.lanes.find((l) => l.jobId === jobId)!.discs.find((d) => d.discId === disc(code))
  const put = (kind: string, row: { id: string } & Record<string, unknown>) =>
    api().put(`/api/${kind}/${row.id}`).send(row)
  const event = (code: string, kind: DiscEvent['kind'], jobId: string | null = null): DiscEvent => ({
    id: newId(),
    discId: disc(code),
    day: '2026-11-27',
    kind,
    jobId,
    note: '',
    removedAt: null,
  })

  it('has the jobs of the shed in their order, with who does them, who has left, and who is not there', async () => {
    const now = await board()
    expect(now.jobs.map((j) => j.name)).deep.equal([
      'Straight mid',
      'Late turn driver',
      'Headwind fairway',
      'Touch approach',
    ])
    const of = (code: string) => now.discs.find((d) => d.code === code)!
    expect(of('HS-009')).include({ jobId: TURN, kind: 'base' })
    expect(of('HS-009').throws).greaterThan(1180)
    expect(of('HS-021')).include({ spared: true, kind: 'premium', state: 'here' })
    expect(of('HS-044')).include({ state: 'lost' })
    // three copies of a mold in one blend, from new to beaten: the new one does the job, the old one has left it
    expect(on(now, 'HS-017')!.now).greaterThan(0.5)
    expect(on(now, 'HS-009')!.now).lessThan(0.35)
    expect(on(now, 'HS-009')!.along!.now).greaterThan(1)
    expect(now.lanes.flatMap((l) => l.discs).some((d) => d.discId === disc('HS-044'))).equal(false)
    const loam = now.blends.find((b) => b.blend === 'Eskwright Loam')!
    expect(loam.tests).greaterThan(3)
    expect(loam.low).lessThan(loam.middle).and.lessThan(loam.high)
  })

  it('moves a disc to another job from a day on, keeps the log, and takes it back', async () => {
    const moved = event('HS-026', 'moved', TURN)
    await put('disc-events', moved).expect(200)
    const after = await board()
    expect(after.discs.find((d) => d.code === 'HS-026')!.jobId).equal(TURN)
    expect(on(after, 'HS-026')!.assigned).equal(true)
    expect(after.events.map((e) => e.id)).include(moved.id)
    await put('disc-events', { ...moved, removedAt: '2026-11-27T10:00:00.000Z' } as DiscEvent).expect(200)
    expect((await board()).discs.find((d) => d.code === 'HS-026')!.jobId).equal(null)
  })

  it('counts wear of several discs, which goes on its way through its job', async () => {
    const before = await board()
    for (const code of ['HS-017', 'HS-021'])
      await put('wear-notes', {
        id: newId(),
        discId: disc(code),
        day: '2026-11-27',
        throws: 120,
        hardHits: 2,
        note: 'lent for three weeks',
        removedAt: null,
      } as { id: string }).expect(200)
    const after = await board()
    const throwsOf = (b: Board, code: string) => b.discs.find((d) => d.code === code)!.throws
    expect(throwsOf(after, 'HS-017')).equal(throwsOf(before, 'HS-017') + 120)
    expect(on(after, 'HS-017')!.along!.now).greaterThan(on(before, 'HS-017')!.along!.now + 0.05)
    const headwind = demoId('job', 'Headwind fairway')
    const [was, is] = [before, after].map((b) => on(b, 'HS-021', headwind)!.along!.now)
    // a stiff premium holds longer than a base blend; how far along that is, each job measures by its own width
    const base = on(after, 'HS-017')!.along!.now - on(before, 'HS-017')!.along!.now
    expect(is! - was!).within(0, 1.25 * base)
  })

  it('loses a disc and finds it again; its life is all there', async () => {
    const [lost, found] = [event('HS-017', 'lost'), event('HS-017', 'found')]
    await put('disc-events', lost).expect(200)
    const without = await board()
    expect(on(without, 'HS-017')).equal(undefined)
    expect(without.discs.find((d) => d.code === 'HS-017')).include({ state: 'lost', jobId: TURN })
    await put('disc-events', found).expect(200)
    const back = await board()
    expect(on(back, 'HS-017')!.assigned).equal(true)
    expect(back.events.filter((e) => e.discId === disc('HS-017')).map((e) => e.kind)).deep.equal([
      'moved',
      'lost',
      'found',
    ])
  })

  it('keeps a job, refuses what is none by its field, and takes one off', async () => {
    const [, turn] = (await board()).jobs
    const mine: JobRow = { ...turn!, id: newId(), name: 'Roller', rank: 9 }
    await put('jobs', mine).expect(200)
    expect((await board()).jobs.at(-1)).deep.equal(mine)
    const refused = await put('jobs', { ...mine, throwing: { ...mine.throwing, power: 3 } }).expect(422)
    expect((refused.body as { errors: { path: string }[] }).errors[0]!.path).equal('throwing.power')
    await put('disc-events', { ...event('HS-017', 'moved', newId()) }).expect(409)
    await put('jobs', { ...mine, removedAt: '2026-11-27T10:00:00.000Z' }).expect(200)
    expect((await board()).jobs.map((j) => j.name)).not.include('Roller')
    expect(it_.failures).deep.equal([])
  })
})
