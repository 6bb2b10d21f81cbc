// An instance with copies that tests may kill: with DATABASE_URL FOLDER it says its address.
import { startServer } from '../../server/main.ts'

const [databaseUrl, folder] = process.argv.slice(2) as [string, string]
const { url } = await startServer({
  databaseUrl,
  host: '127.0.0.1',
  port: 0,
  quiet: true,
  custody: { folder, most: 1e9, builtIn: true, data: folder },
})
process.stdout.write(`${url}\n`)
