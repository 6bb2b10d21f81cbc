import fs from 'node:fs'
import path from 'node:path'
import SwaggerParser from '@apidevtools/swagger-parser'
import { expect } from 'chai'
import { z } from 'zod'
import { ADDRESSES, API, isMedia } from '../../contract/api.ts'
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
  const ask = async (where: string, init?: RequestInit) => {
    const { port } = it_.server.address() as { port: number }
    return await fetch(`http://127.0.0.1:${port}${where}`, init)
  }

  it('is served as an OpenAPI document that a validator takes', async () => {
    const answer = await ask('/api/openapi.json')
    expect(answer.status).equal(200)
    const document = (await answer.json()) as ReturnType<typeof openApi>
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
    for (const [where, init, status] of [
      ['/api/nothing', {}, 404],
      ['/api/trials/none', {}, 422],
      ['/api/discs?sort=luck', {}, 422],
      ['/api/arm-days', {}, 422],
      [
        '/api/throwers/none',
        { method: 'PUT', body: '{', headers: { 'content-type': 'application/json' } },
        400,
      ],
    ] as const) {
      const answer = await ask(where, init)
      expect(answer.status, where).equal(status)
      expect(answer.headers.get('content-type')).contain('application/problem+json')
      const problem = Problem.parse(await answer.json())
      expect(problem.type).equal(PROBLEM_BASE + PROBLEM_TYPES[status])
    }
  })

  it('asks nothing of an address that is not of a form, and takes every file it says it takes', () => {
    for (const address of ADDRESSES) {
      const route = API[address]
      if ('query' in route) expect(route.query, address).instanceOf(z.ZodObject)
      if ('body' in route && isMedia(route.body)) expect(route.body.media, address).not.empty
    }
  })
})
