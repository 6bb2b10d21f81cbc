import type { Problem } from '../../contract/imports.ts'

/** The server's refusal, with the fields at fault. */
export class ApiProblem extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail)
  }
}
/** The server did not answer at all. */
export class Unreachable extends Error {
  constructor() {
    super('The server does not answer. What you kept stays on this device and is sent when it is back.')
  }
}

async function answered(path: string, init?: RequestInit): Promise<Response> {
  let response: Response
  try {
    response = await fetch(path, init)
  } catch {
    throw new Unreachable()
  }
  if (response.ok) return response
  if (response.headers.get('content-type')?.includes('problem+json'))
    throw new ApiProblem((await response.json()) as Problem)
  if (response.status >= 502) throw new Unreachable()
  throw new ApiProblem({
    title: 'Refused',
    status: response.status,
    detail: `The server answered ${response.status}.`,
  })
}

export const read = async <T>(path: string): Promise<T> => (await (await answered(path)).json()) as T

export const write = async <T>(path: string, body: unknown, signal?: AbortSignal): Promise<T> =>
  (await (
    await answered(path, {
      method: 'PUT',
      ...(signal && { signal }),
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    })
  ).json()) as T

export const ask = async <T>(path: string, body: unknown): Promise<T> =>
  (await (
    await answered(path, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    })
  ).json()) as T

export const sendCsv = async <T>(path: string, csv: string): Promise<T> =>
  (await (
    await answered(path, { method: 'POST', headers: { 'content-type': 'text/csv' }, body: csv })
  ).json()) as T

/** What kept a file from being read. */
export const problemOf = (e: unknown): Problem =>
  e instanceof ApiProblem
    ? e.problem
    : { title: 'Not sent', status: 0, detail: `${(e as Error).message} Nothing of the file was stored.` }

/** Sends bytes as they are. */
export const sendBytes = async (path: string, bytes: Blob): Promise<void> => {
  await answered(path, { method: 'PUT', headers: { 'content-type': bytes.type }, body: bytes })
}

export const remove = async (path: string): Promise<void> => {
  await answered(path, { method: 'DELETE' })
}
