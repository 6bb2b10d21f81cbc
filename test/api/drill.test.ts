import { expect } from 'chai'
import request from 'supertest'
import { v7 as newId } from 'uuid'
import { DrillAnswers, DrillRecordeds } from '../../contract/drill.ts'
import type { DrillAnswer } from '../../contract/drill.ts'
import { harrowmere } from '../../demo/harrowmere.ts'
import { ratedDemoServer, testServer } from './server.ts'
import type { TestServer } from './server.ts'

const demo = harrowmere()
const given = (change: Partial<DrillAnswer> = {}): DrillAnswer => ({
  id: newId(),
  throwerId: null,
  answeredAt: '2026-11-20T18:00:00.000Z',
  kind: 'angle',
  level: 0.25,
  truth: { kind: 'range', value: 12 },
  answer: { kind: 'range', low: 4, high: 14 },
  like: ['always', 'hyzer'],
  right: true,
  points: 54.5,
  ...change,
})

describe('answers of the eye drill', () => {
  let at: TestServer
  before(async () => {
    at = await testServer()
  })
  after(async () => at.stop())
  const put = (row: DrillAnswer) => request(at.server).put(`/api/drill-answers/${row.id}`).send(row)

  it('are kept as they were given, the oldest first, and once however often they are sent', async () => {
    const rows = [
      given({
        answeredAt: '2026-11-21T18:00:00.000Z',
        kind: 'landing',
        truth: { kind: 'circle', at: { downM: 81.2, sideM: 6.4 } },
        answer: { kind: 'circle', at: { downM: 76, sideM: 3 }, radiusM: 9 },
        points: -12,
        right: false,
      }),
      given(),
      given({
        answeredAt: '2026-11-20T18:01:00.000Z',
        kind: 'nose',
        truth: { kind: 'shares', option: 2 },
        answer: { kind: 'shares', shares: [0.1, 0.2, 0.7] },
      }),
    ]
    for (const row of [...rows, rows[0]!]) await put(row).expect(200)
    const { body } = await request(at.server).get('/api/drill-answers').expect(200)
    expect(DrillAnswers.parse(body)).deep.equal([rows[1], rows[2], rows[0]])
  })

  it('that are none are refused by their field, and nothing is stored', async () => {
    const before = (await request(at.server).get('/api/drill-answers')).body as unknown[]
    for (const [wrong, field] of [
      [given({ answer: { kind: 'range', low: 9, high: 4 } }), 'answer'],
      [given({ answer: { kind: 'shares', shares: [0.5, 0.2] } }), 'answer'],
      [given({ level: 1.5 }), 'level'],
      [given({ kind: 'colour' as 'angle' }), 'kind'],
    ] as const) {
      const { status, text } = await put(wrong)
      expect(status, text).equal(422)
      expect(text).contain(field)
    }
    expect((await request(at.server).get('/api/drill-answers')).body).deep.equal(before)
  })
})

describe('recorded throws that the drill shows again', () => {
  let at: TestServer
  before(async () => {
    at = await ratedDemoServer()
  })
  after(async () => at.stop())

  it('are those with times and heights that count, thinned, with what their disc is rated', async () => {
    const read = async () =>
      DrillRecordeds.parse((await request(at.server).get('/api/recorded-throws').expect(200)).body)
    expect(await read()).deep.equal([])
    const [template, other, third] = demo.throws
    const of = (points: number, k: number) => Array.from({ length: points }, (_, i) => (k * i) / points)
    const path = { timeS: of(400, 4), downM: of(400, 80), rightM: of(400, -5), upM: of(400, 1) }
    const put = (row: object) =>
      request(at.server)
        .put(`/api/throws/${(row as { id: string }).id}`)
        .send(row)
        .expect(200)
    await put({ ...template, path })
    // without heights it cannot be seen from behind, and one that does not count was no throw of it
    await put({ ...other, path: { ...path, upM: [] } })
    await put({ ...third, path, counts: false, whyNot: 'hit a branch' })
    const [shown, ...more] = await read()
    expect(more).deep.equal([])
    expect(shown!.throwId).equal(template!.id)
    expect(shown!.path.downM).length(90)
    expect(shown!.path.downM.at(-1)).equal(path.downM.at(-1))
    expect(shown!.rated!.turn.sd).greaterThan(0)
  })
})
