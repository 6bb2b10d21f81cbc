// An instance that tests may kill: with DATABASE_URL it says its address once it listens.
import { startServer } from '../../server/main.ts'

const { url } = await startServer({
  databaseUrl: process.argv[2]!,
  host: '127.0.0.1',
  port: 0,
  quiet: true,
})
process.stdout.write(`${url}\n`)
