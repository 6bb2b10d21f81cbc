import fs from 'node:fs'
import path from 'node:path'
import SwaggerParser from '@apidevtools/swagger-parser'
import { expect } from 'chai'
import request from 'supertest'
import { v7 as newId } from 'uuid'
import { z } from 'zod'
import { ADDRESSES, at } from '../../contract/api.ts'
import { apiPage } from '../../contract/apiPage.ts'
import { openApi } from '../../contract/openapi.ts'
import { Problem, PROBLEM_BASE, PROBLEM_TYPES } from '../../contract/problems.ts'
import { isAsAgreed, testServer } from './server.ts'
import type { TestServer } from './server.ts'

type Operation = Readonly<Record<string, unknown>> & {
  readonly operationId: string
  readonly parameters?: readonly { readonly in: string; readonly name: string; readonly required: boolean }[]
  readonly requestBody?: { readonly content: Readonly<Record<string, unknown>> }
}

describe('the contract', () => {
  let it_: TestServer
  before(async function () {
    this.timeout(60_000)
    it_ = await testServer()
  })
  after(() => it_.stop())

  it('is served as an OpenAPI document that a validator takes', async () => {
    const { body } = await request(it_.server).get('/api/openapi.json').expect(200)
    const document = body as ReturnType<typeof openApi>
    expect(document).deep.equal(JSON.parse(JSON.stringify(openApi())))
    // it resolves and changes what it is given
    await SwaggerParser.validate(structuredClone(document) as never)
  })

  it('describes every route with what is sent and what comes back, and no two by one name', () => {
    const { paths } = openApi() as unknown as {
      paths: Readonly<Record<string, Readonly<Record<string, Operation>>>>
    }
    const told = Object.entries(paths).flatMap(([where, methods]) =>
      Object.entries(methods).map(([method, operation]) => ({
        address: `${method.toUpperCase()} ${where.replace(/\{(\w+)\}/g, ':$1')}`,
        operation,
      })),
    )
    expect(told.map((t) => t.address).sort()).deep.equal([...ADDRESSES].sort())
    expect(new Set(told.map((t) => t.operation.operationId)).size).equal(ADDRESSES.length)
    const minutes = told
      .find((t) => t.address === 'GET /api/trials/:id/session.ics')!
      .operation.parameters!.find((p) => p.name === 'minutes')
    expect(minutes).deep.include({ in: 'query', required: false })
    const write = told.find((t) => t.address === 'PUT /api/throws/:id')!.operation
    expect(JSON.stringify(write.requestBody)).contain('carryM')
    expect(write['description']).equal('Needs a scribe.')
  })

  it('is what there is a page of', () => {
    const page = fs.readFileSync(path.join(import.meta.dirname, '../../docs/api.md'), 'utf8')
    expect(page, 'npm run api writes it anew').equal(apiPage())
  })

  it('lets nothing through that it does not name', () => {
    const now = { now: new Date().toISOString() }
    isAsAgreed('GET /api/now', now)
    expect(() => isAsAgreed('GET /api/now', { ...now, secret: 1 })).throw('GET /api/now')
    expect(() => isAsAgreed('GET /api/now', {})).throw(z.ZodError)
  })

  it('has a type for every problem, which programs go by', async () => {
    const api = request(it_.server)
    const broken = api.put('/api/throwers/none').set('content-type', 'application/json').send('{')
    for (const [asked, status] of [
      [api.get('/api/nothing'), 404],
      [api.get('/api/trials/none'), 422],
      [api.get('/api/discs?sort=luck'), 422],
      [api.get('/api/arm-days'), 422],
      [api.post(`/api/trials/${newId()}/import`).send({ csv: '' }), 415],
      [broken, 400],
    ] as const) {
      const answer = await asked.expect(status).expect('content-type', /^application\/problem\+json/)
      const problem = Problem.parse(answer.body)
      expect(problem.type).equal(PROBLEM_BASE + PROBLEM_TYPES[status])
    }
  })

  it('fills an address in: names and values as addresses have them, what is not said left out, lists one by one', () => {
    expect(at('GET /api/arms')).deep.equal({ route: 'GET /api/arms', path: '/api/arms' })
    expect(at('GET /api/copies/:name', { name: 'a b/c?.zip' }).path).equal('/api/copies/a%20b%2Fc%3F.zip')
    const id = newId()
    expect(at('GET /api/discs/:id/likeness', { id }, { arm: 24.5 }).path).equal(
      `/api/discs/${id}/likeness?arm=24.5`,
    )
    expect(at('GET /api/reviews', {}).path).equal('/api/reviews')
    expect(at('POST /api/restore', { take: [id, 'x&y'] }).path).equal(`/api/restore?take=${id}&take=x%26y`)
  })
})
