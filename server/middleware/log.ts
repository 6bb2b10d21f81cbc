import type { Middleware } from 'koa'

/** One JSON line a request. */
export const log: Middleware = async (ctx, next) => {
  const start = performance.now()
  await next()
  const ms = Math.round(10 * (performance.now() - start)) / 10
  const { method, path, status } = ctx
  process.stdout.write(`${JSON.stringify({ at: new Date().toISOString(), method, path, status, ms })}\n`)
}
