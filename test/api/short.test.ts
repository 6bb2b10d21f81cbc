import { expect } from 'chai'
import request from 'supertest'
import { v7 as newId } from 'uuid'
import { demoId } from '../../demo/shed.ts'
import { NOTHING_OF_SHORT } from '../../core/throw/short.ts'
import type { ShortThrow } from '../../contract/trials.ts'
import { demoServer } from './server.ts'
import type { TestServer } from './server.ts'

describe('the short game on the server', () => {
  let it_: TestServer
  before(async function () {
    this.timeout(180_000)
    it_ = await demoServer()
  })
  after(() => it_.stop())
  const trialId = demoId('trial', 'four')
  const blank = (change: Partial<ShortThrow>): ShortThrow => ({
    id: newId(),
    trialId,
    sessionId: demoId('session', 'four'),
    discId: demoId('disc', 'HS-021'),
    throwerId: demoId('thrower', 'Odile Fenn'),
    thrownAt: '2026-10-04T12:00:00.000Z',
    game: 'ground',
    ...NOTHING_OF_SHORT,
    takenBackAt: null,
    ...change,
  })
  const put = (row: ShortThrow) => request(it_.server).put(`/api/short-throws/${row.id}`).send(row)
  const stored = async () =>
    (await request(it_.server).get(`/api/trials/${trialId}/short`).expect(200)).body as ShortThrow[]

  it('stores each game as it was sent, once however often it is sent', async () => {
    const rows = [
      blank({ game: 'ground', groundM: 6.5, thrownAt: '2026-10-04T12:00:00.000Z' }),
      blank({
        game: 'approach',
        distanceM: 40,
        pastM: -3,
        rightM: 1,
        effort: 0.7,
        thrownAt: '2026-10-04T12:01:00.000Z',
      }),
      blank({
        game: 'putting',
        distanceM: 9,
        made: false,
        miss: 'short',
        style: 'push',
        thrownAt: '2026-10-04T12:02:00.000Z',
      }),
      blank({ game: 'holes', hole: 3, strokes: 4, lieM: 22, thrownAt: '2026-10-04T12:03:00.000Z' }),
    ]
    for (const row of [...rows, ...rows]) await put(row).expect(200)
    expect(await stored()).deep.equal(rows)
  })

  it('takes one back without erasing it, and restores it', async () => {
    const row = blank({ groundM: 3 })
    await put(row).expect(200)
    const count = (await stored()).length
    await put({ ...row, takenBackAt: '2026-10-04T12:30:00.000Z' }).expect(200)
    expect(await stored()).length(count - 1)
    await put(row).expect(200)
    expect(await stored()).length(count)
  })

  for (const [what, change, sentence] of [
    ['a skip without its metres', { game: 'ground' }, /^The ground play must be given for ground/],
    [
      'an approach without its mark',
      { game: 'approach', pastM: 2 },
      /^The distance must be given for approach/,
    ],
    [
      'a putt that was neither made nor missed',
      { game: 'putting', distanceM: 8 },
      /^The make or miss must be given for putting/,
    ],
    ['a hole without strokes', { game: 'holes', hole: 2 }, /strokes must be given for holes/],
    [
      'a skip of a kilometre',
      { game: 'ground', groundM: 1000 },
      /^The ground play is 1000; it must lie between 0 and 150 m/,
    ],
    ['no strokes at all', { game: 'holes', hole: 1, strokes: 0 }, /strokes/],
    ['a disc of another trial', { groundM: 1, discId: demoId('disc', 'HS-040') }, /not in this trial/],
    ['an unknown thrower', { groundM: 1, throwerId: newId() }, /^The thrower is not known here/],
  ] as const) {
    it(`refuses ${what} with a sentence, and stores nothing`, async () => {
      const row = blank(change as Partial<ShortThrow>)
      const refused = await put(row)
      expect(refused.status).within(409, 422)
      expect(refused.body.detail).match(sentence)
      expect((await stored()).some((t) => t.id === row.id)).equal(false)
    })
  }

  it('lets the database itself refuse a game without what it needs', async () => {
    const [first] = await stored()
    const message = await it_.db
      .execute(`update short_throws set ground_m = null where id = '${first!.id}'`)
      .then(
        () => 'stored',
        (x: Error) => String(x.cause ?? x),
      )
    expect(message).match(/short_throws_whole/)
  })
})
