import http from 'node:http'
import type { AddressInfo } from 'node:net'
import { brotliCompressSync, gzipSync } from 'node:zlib'
import { expect } from 'chai'
import request from 'supertest'
import { v7 as newId } from 'uuid'
import type { Shelf } from '../../contract/shelf.ts'
import type { Throw, Trial, TrialFile } from '../../contract/trials.ts'
import { instantIn, isDay, isInstant } from '../../core/throw/day.ts'
import { readThrowsCsv } from '../../core/formats/throwsCsv.ts'
import { demoId } from '../../demo/shed.ts'
import { demoServer } from './server.ts'
import type { TestServer } from './server.ts'

interface Said {
  readonly detail: string
  readonly errors?: readonly { readonly path: string; readonly message: string; readonly row?: number }[]
}

describe('what nobody should send', () => {
  let it_: TestServer
  let file: TrialFile
  let shelf: Shelf
  const trialId = demoId('trial', 'fairways')
  before(async () => {
    it_ = await demoServer()
    file = (await api().get(`/api/trials/${trialId}`)).body as TrialFile
    shelf = (await api().get('/api/shelf')).body as Shelf
  })
  after(() => it_.stop())
  const api = () => request(it_.server)
  const port = () => (it_.server.address() as AddressInfo).port
  const fresh = (change: Partial<Throw> = {}): Throw => ({
    ...file.throws[0]!,
    id: newId(),
    label: null,
    version: 0,
    ...change,
  })
  const put = async (row: Throw): Promise<{ status: number; said: Said }> => {
    const { status, body } = await api().put(`/api/throws/${row.id}`).send(row)
    return { status, said: body as Said }
  }

  for (const [what, change, path] of [
    ['a NUL in a note', { notes: { sky: 'low\0cloud' } }, 'notes.sky'],
    ['half a character in a label', { label: 'a\ud800' }, 'label'],
    ['a NUL in the name of a note', { notes: { 's\0ky': 'low' } }, 'notes'],
    ['the year 0000', { thrownAt: '0000-05-09T10:00:00Z' }, 'thrownAt'],
    ['a day that never was', { thrownAt: '2026-02-30T10:00:00Z' }, 'thrownAt'],
    ['clocks a day off Greenwich', { thrownAt: '2026-05-09T10:00:00+23:59' }, 'thrownAt'],
    ['a version beyond counting', { version: 2 ** 31 - 1 }, 'version'],
    ['a version beyond any', { version: 2 ** 40 }, 'version'],
  ] as const)
    it(`is refused by the field it stands in: ${what}`, async () => {
      const { status, said } = await put(fresh(change))
      expect([status, said.errors?.map((e) => e.path)]).deep.equal([422, [path]])
      expect(said.detail).not.match(/rule of the database|Invalid|expected/)
    })

  it('is refused by the name it stands in: a NUL in what is looked for, in an address, in a disc', async () => {
    for (const answer of [
      await api().get('/api/discs?find=%00'),
      await api().get('/api/trials/%00'),
      await api()
        .put(`/api/discs/${shelf.discs[0]!.id}`)
        .send({ ...shelf.discs[0]!, note: '\0' }),
    ])
      expect([answer.status, (answer.body as Said).detail]).deep.equal([
        422,
        (answer.body as Said).detail.replace(/^(.*?)(olds a character that is none.*)$/, '$1$2'),
      ])
  })

  it('is said in sentences of this product, not of a library', async () => {
    for (const [body, sentence] of [
      ['[]', /^Must be an object with named fields\.$/],
      ['{"id":5}', /The id must be a UUID; .*The trial must be a UUID/],
      [JSON.stringify({ ...fresh(), notes: [] }), /^The notes must be an object with named fields\.$/],
      [
        JSON.stringify({ ...fresh(), counts: 'yes' }),
        /^The answer whether it counts must be true or false\.$/,
      ],
      [JSON.stringify({ ...fresh(), path: 'far' }), /^The path must be an object with named fields\.$/],
      [JSON.stringify({ ...fresh(), takenBackAt: 5 }), /must be an ISO 8601 time/],
    ] as const) {
      const { status, body: said } = await api()
        .put(`/api/throws/${newId()}`)
        .set('content-type', 'application/json')
        .send(body)
      expect(status, body).equal(422)
      expect((said as Said).detail).match(sentence)
      expect((said as Said).detail).not.match(/Invalid input|expected |received /)
    }
  })

  it('is refused where a body is not compressed as it says', async () => {
    const send = async (body: Buffer) => {
      const answer = await fetch(`http://127.0.0.1:${port()}/api/throws/${newId()}`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json', 'content-encoding': 'gzip' },
        body: new Uint8Array(body),
      })
      return [answer.status, ((await answer.json()) as Said).detail]
    }
    const whole = gzipSync(JSON.stringify(fresh()))
    const broken = Buffer.from(whole)
    broken.fill(7, 12, 60)
    for (const body of [Buffer.from('no gzip at all'), broken, whole.subarray(0, whole.length / 2)])
      expect(await send(body)).deep.equal([400, 'The body is not what its Content-Encoding says it is.'])
  })

  it('is refused in a file, by row and column', async () => {
    const header =
      'thrower,hand,stroke,disc,maker,mold,plastic,speed,glide,turn,fade,hyzer_deg,carry_m,right_m,thrown_at'
    const line = (change: { readonly [column: string]: string | undefined }) =>
      header
        .split(',')
        .map(
          (c) =>
            change[c] ??
            {
              thrower: 'Odile Fenn',
              hand: 'right',
              stroke: 'backhand',
              disc: 'FX-1',
              maker: 'Eskwright',
              mold: 'Tarnwick',
              plastic: 'Slate',
              speed: '9',
              glide: '5',
              turn: '-1',
              fade: '2',
              hyzer_deg: '0',
              carry_m: '80',
              right_m: '-3',
              thrown_at: '2026-05-09T10:00:00Z',
            }[c]!,
        )
        .join(',')
    const long = 'x'.repeat(121)
    const rows = [
      { disc: 'd'.repeat(41) },
      { maker: long },
      { mold: long },
      { plastic: long },
      { thrower: long },
      { thrown_at: '2026-02-30T10:00:00Z' },
      { thrown_at: '0000-01-01' },
      { thrown_at: '2026-05-09T10:00:00+23:59' },
    ]
    const send = (csv: string) =>
      api().post(`/api/trials/${trialId}/import?store=1`).set('content-type', 'text/csv').send(csv)
    const { status, body } = await send([header, ...rows.map(line)].join('\n'))
    expect(status).equal(422)
    const at = (body as Said).errors!.map((e) => [e.row, e.path])
    for (const [i, row] of rows.entries()) expect(at).deep.include([i + 2, Object.keys(row)[0]!])
    const nul = await send([header, line({}), line({ disc: 'F\0' })].join('\n'))
    expect([nul.status, (nul.body as Said).errors!.map((e) => [e.row, e.path])]).deep.equal([
      422,
      [[3, 'disc']],
    ])
    const days = await api()
      .post('/api/discs/import?store=1')
      .set('content-type', 'text/csv')
      .send(
        'code,maker,mold,plastic,acquired_on\nF1,Eskwright,Tarnwick,Slate,2026-13-01\nF2,Eskwright,Tarnwick,Slate,2026-02-29\n',
      )
    expect((days.body as Said).errors!.map((e) => [e.row, e.path])).deep.equal([
      [2, 'acquired_on'],
      [3, 'acquired_on'],
    ])
  })

  it('is refused: a file with as many columns as a field has blades of grass', async () => {
    const wide = Array.from({ length: 300_000 }, (_, i) => `c${i}`).join(',')
    for (const where of [`/api/trials/${trialId}/import`, '/api/discs/import']) {
      const { status, body } = await api().post(where).set('content-type', 'text/csv').send(`${wide}\n1\n`)
      expect(status).equal(422)
      expect((body as Said).errors![0]!.message).equal('The file has 300000 columns; at most 500 are read.')
    }
  })

  it('keeps nobody waiting: a long file is read and stored beside everything else, and says how far it is', async function () {
    this.timeout(120_000)
    const header =
      'throw,thrower,hand,stroke,disc,maker,mold,plastic,speed,glide,turn,fade,hyzer_deg,carry_m,right_m,thrown_at,sky'
    const rows = Array.from(
      { length: 6000 },
      (_, i) =>
        `long-${i},Odile Fenn,right,backhand,LG-${i % 50},Eskwright,Longish,Slate,9,5,-1,2,${i % 20},${60 + (i % 40)},-3,2026-05-0${1 + (i % 9)}T10:00:00Z,low`,
    )
    const id = newId()
    const file: Trial = { ...(await api().get(`/api/trials/${trialId}`)).body.trial, id, version: 0 } as Trial
    await api().put(`/api/trials/${id}`).send(file).expect(200)
    const base = `http://127.0.0.1:${port()}`
    const job = newId()
    let over = false
    const begunAt = performance.now()
    const import_ = fetch(`${base}/api/trials/${id}/import?store=1&job=${job}`, {
      method: 'POST',
      headers: { 'content-type': 'text/csv' },
      body: [header, ...rows].join('\n'),
    }).then(async (answer) => {
      over = true
      return { status: answer.status, body: (await answer.json()) as { throws: number } }
    })
    const waits: number[] = []
    const stages: string[] = []
    let most = 0
    while (!over) {
      const begun = performance.now()
      await (await fetch(`${base}/api/health`)).json()
      waits.push(performance.now() - begun)
      const at = await fetch(`${base}/api/imports/${job}`)
      if (at.ok) {
        const { stage, done } = (await at.json()) as { stage: string; done: number }
        stages.push(stage)
        most = Math.max(most, done)
      }
      await new Promise((r) => setTimeout(r, 10))
    }
    expect(await import_).deep.include({ status: 200 })
    expect((await import_).body.throws).equal(6000)
    expect(stages).include('reading').include('storing')
    expect(most).within(500, 6000)
    // none of them waited for the import to end, however fast the machine is
    expect(Math.max(...waits)).lessThan((performance.now() - begunAt) / 3)
    expect(((await api().get(`/api/trials/${id}`)).body as TrialFile).throws).length(6000)
    await api().get(`/api/imports/${job}`).expect(404)
  })

  it('does not stand in the way of the next request: a photo too large is refused by its own limit', async () => {
    const agent = new http.Agent({ keepAlive: true, maxSockets: 1 })
    const ask = (method: string, path: string, body = '') =>
      new Promise<{ status: number; text: string }>((done, fail) => {
        const req = http.request(
          {
            agent,
            host: '127.0.0.1',
            port: port(),
            method,
            path,
            headers: { 'content-type': 'application/json' },
          },
          (res) => {
            let text = ''
            res.on('data', (d) => (text += String(d)))
            res.on('end', () => done({ status: res.statusCode!, text }))
          },
        )
        req.on('error', fail)
        req.end(body)
      })
    const id = shelf.discs[0]!.id
    const photo = { kind: 'image/jpeg', base64: 'A'.repeat(8_000_000) }
    const refused = await ask('PUT', `/api/photos/${id}`, JSON.stringify({ id, photo }))
    expect([refused.status, (JSON.parse(refused.text) as Said).detail]).deep.equal([
      413,
      'The photo is too large; at most 2 MB are taken.',
    ])
    expect((await ask('GET', '/api/health')).status).equal(200)
    agent.destroy()
  })
})

describe('versions', () => {
  let it_: TestServer
  before(async () => void (it_ = await demoServer()))
  after(() => it_.stop())
  const api = () => request(it_.server)
  const id = demoId('trial', 'fairways')
  const read = async () => (await api().get(`/api/trials/${id}`).expect(200)).body as TrialFile
  const put = (row: Trial) => api().put(`/api/trials/${row.id}`).send(row)

  it('keep a trial from being written over by an older reading: the added disc and the end both stay', async () => {
    const { trial } = await read()
    const shelf = (await api().get('/api/shelf')).body as Shelf
    const more = shelf.discs.find((d) => !trial.discIds.includes(d.id))!.id
    const grown = (await put({ ...trial, discIds: [...trial.discIds, more] }).expect(200)).body as Trial
    expect(grown.version).equal(trial.version! + 1)
    // another device finishes what it read before
    const finished = { ...trial, finishedAt: '2026-11-26T10:00:00.000Z' }
    const refused = await put(finished).expect(409)
    expect((refused.body as { stored: Trial }).stored.discIds).include(more)
    expect((await read()).trial.discIds).include(more)
    const settled = { ...finished, discIds: grown.discIds, version: grown.version! }
    await put(settled).expect(200)
    // sent again, since its answer was lost
    await put(settled).expect(200)
    expect((await read()).trial).include({ finishedAt: finished.finishedAt, version: grown.version! + 1 })
  })

  it('take a trial and a throw made once for made, however late its making comes again', async () => {
    const { trial, throws } = await read()
    const made: Trial = { ...trial, id: newId(), name: 'Made on the way', finishedAt: null, version: 0 }
    await put(made).expect(200)
    await put({ ...made, name: 'Called otherwise', version: 1 }).expect(200)
    expect((await put(made).expect(200)).body).include({ version: 1 })
    expect(((await api().get(`/api/trials/${made.id}`)).body as TrialFile).trial.name).equal(
      'Called otherwise',
    )

    const row: Throw = { ...throws[0]!, id: newId(), label: null, version: 0 }
    const write = (t: Throw) => api().put(`/api/throws/${t.id}`).send(t)
    await write(row).expect(200)
    await write({ ...row, carryM: 61, version: 1 }).expect(200)
    expect((await write(row).expect(200)).body).include({ version: 1 })
    expect((await read()).throws.find((t) => t.id === row.id)).include({ carryM: 61, version: 2 })
  })

  it('leave a throw in its trial', async () => {
    const { throws } = await read()
    const row = { ...throws[0]!, trialId: demoId('trial', 'four') }
    const { status, body } = await api().put(`/api/throws/${row.id}`).send(row)
    expect([status, (body as Said).errors!.map((e) => e.path)]).deep.equal([409, ['trialId']])
    expect((await read()).throws.some((t) => t.id === row.id)).equal(true)
  })
})

describe('a time as a file writes it', () => {
  it('is that of clocks somewhere: without a zone those of whoever wrote it, not the server’s', () => {
    expect(instantIn('2026-05-09T10:24:00', 'Pacific/Auckland')).equal('2026-05-08T22:24:00.000Z')
    expect(instantIn('2026-01-09T10:24', 'Europe/Berlin')).equal('2026-01-09T09:24:00.000Z')
    expect(instantIn('2026-07-09T10:24:30.5', 'Europe/Berlin')).equal('2026-07-09T08:24:30.500Z')
    expect(instantIn('2026-05-09T10:24:00', null)).equal('2026-05-09T10:24:00.000Z')
    expect(instantIn('2026-05-09T10:24:00+02:00', 'Pacific/Auckland')).equal('2026-05-09T08:24:00.000Z')
    expect(instantIn('2026-05-09', 'Pacific/Auckland')).equal('2026-05-09T00:00:00.000Z')
    expect(() => instantIn('yesterday', null)).throw(RangeError)
  })

  it('is one that was', () => {
    expect(['2024-02-29', '1999-12-31'].map(isDay)).deep.equal([true, true])
    expect(['2026-02-29', '2026-13-01', '2026-00-10', '0000-01-01', '9-1-1'].map(isDay)).not.include(true)
    for (const at of [
      '2026-05-09T24:30:00Z',
      '2026-05-09T10:60:00Z',
      '2026-05-09T10:00:00+14:30',
      '2026-05-09T1Z',
    ])
      expect(isInstant(at), at).equal(false)
    for (const at of [
      '2026-05-09',
      '2026-05-09T10:00Z',
      '2026-05-09T10:00:00.123+1400',
      '2026-05-09T10:00:00-0330',
    ])
      expect(isInstant(at), at).equal(true)
  })
})

describe('a body that is more than it looks', () => {
  let it_: TestServer
  before(async () => {
    it_ = await demoServer()
  })
  after(() => it_.stop())
  const origin = () => `http://127.0.0.1:${(it_.server.address() as AddressInfo).port}`
  const sent = async (method: string, where: string, body: Uint8Array | string, encoding?: string) => {
    const answer = await fetch(`${origin()}${where}`, {
      method,
      body: body as BodyInit,
      headers: { 'content-type': 'application/json', ...(encoding && { 'content-encoding': encoding }) },
    })
    return { status: answer.status, detail: ((await answer.json()) as Said).detail }
  }
  const deep = (n: number) => '['.repeat(n) + ']'.repeat(n)

  it('of somebody who has not come in, a few kB are read, however small it was folded', async () => {
    const bomb = gzipSync(deep(1_400_000))
    expect(bomb.length).to.be.lessThan(4000)
    for (const where of ['/api/pair', '/api/sign-in', '/api/join', '/api/at-machine']) {
      expect(await sent('POST', where, bomb, 'gzip')).to.deep.equal({
        status: 413,
        detail: 'The body is too large; at most 4 kB are taken.',
      })
      expect((await sent('POST', where, JSON.stringify({ code: 'x'.repeat(5000) }))).status).to.equal(413)
    }
    expect((await sent('POST', '/api/pair', gzipSync('{"code":"A","device":"x"}'), 'gzip')).status).to.equal(
      409,
    )
  })

  it('is refused by its depth and by how much it holds, short or long, and the server goes on', async () => {
    const id = newId()
    const put = (text: string, encoding?: string) =>
      sent('PUT', `/api/throws/${id}`, encoding ? gzipSync(text) : text, encoding)
    expect((await put(deep(129))).detail).to.match(/nested more than 128 deep/)
    expect((await put(deep(1_400_000), 'gzip')).detail).to.match(/nested more than 128 deep/)
    expect((await put(`{"a":${deep(5000)}}`)).status).to.equal(400)
    expect((await put(`[${'0,'.repeat(500_000)}0]`, 'gzip')).detail).to.match(
      /holds more than 400,000 values/,
    )
    // brackets in a text are text
    expect((await put(JSON.stringify({ note: '[['.repeat(200_000) }))).status).to.equal(422)
    expect((await put(deep(128))).status).to.equal(422)
    expect((await fetch(`${origin()}/api/health`)).status).to.equal(200)
  })

  it('is refused by what folded it, where it is not that', async () => {
    const id = newId()
    for (const encoding of ['br', 'gzip', 'deflate'])
      expect(await sent('PUT', `/api/throws/${id}`, 'not folded at all', encoding)).to.deep.equal({
        status: 400,
        detail: 'The body is not what its Content-Encoding says it is.',
      })
    expect((await sent('PUT', `/api/throws/${id}`, '{}', 'zstd')).status).to.equal(415)
    expect((await sent('PUT', `/api/throws/${id}`, brotliCompressSync('{}'), 'br')).status).to.equal(422)
  })

  it('addresses that are none are no fault of the server', async () => {
    for (const where of ['/published/%00', '/published/%zz', '/%00', '/published/a%00b'])
      expect((await fetch(`${origin()}${where}`)).status, where).to.be.within(400, 404)
  })

  it('a file of blank lines alone is said to be one, and not read on', async () => {
    const csv = '\n'.repeat(7_000_000)
    const answer = await fetch(`${origin()}/api/trials/${demoId('trial', 'fairways')}/import?store=1`, {
      method: 'POST',
      headers: { 'content-type': 'text/csv' },
      body: csv,
    })
    expect(answer.status).to.equal(422)
    expect(JSON.stringify(await answer.json())).to.match(/The file is empty/)
    const lined = readThrowsCsv(`throw,thrower\n${csv}`)
    expect(lined.ok === false && lined.problems[0]!.message).to.match(/more than 100,000 lines/)
  })
})
