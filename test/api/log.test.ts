import { expect } from 'chai'
import Koa from 'koa'
import request from 'supertest'
import { log } from '../../server/middleware/log.ts'

describe('the log', () => {
  async function logged(readable: boolean): Promise<string> {
    const lines: string[] = []
    const app = new Koa()
    app.use(log(readable, (line) => lines.push(line)))
    app.use((ctx) => {
      ctx.state['who'] = { person: { name: 'Ida' }, keyId: null }
      ctx.status = 204
    })
    await request(app.callback()).put('/api/throws/0193f2c4-7a52-7c1e-9f30-5d2a9e1b6c77').expect(204)
    expect(lines).to.have.length(1)
    return lines[0]!
  }
  it('is a line a request that a person reads: when, what, how it went, how long, and who', async () => {
    expect(await logged(true)).to.match(
      /^\d\d:\d\d:\d\d {2}PUT \/api\/throws\/0193f2c4… {2}204 {2}\d+ ms {2}Ida$/,
    )
  })
  it('or JSON for programs, with nothing cut short', async () => {
    const line = JSON.parse(await logged(false)) as Record<string, unknown>
    expect(line).to.include({
      method: 'PUT',
      path: '/api/throws/0193f2c4-7a52-7c1e-9f30-5d2a9e1b6c77',
      status: 204,
      who: 'Ida',
    })
    expect(new Date(line['at'] as string).getTime()).to.be.closeTo(Date.now(), 60_000)
  })
})
