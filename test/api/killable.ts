// A server that tests may kill: with DATABASE_URL PORT it says “up” once it listens.
import { makeApp } from '../../server/app.ts'
import { openDatabase } from '../../server/store/database.ts'
import { Works } from '../../server/work/works.ts'

const [url, port] = process.argv.slice(2)
const connection = await openDatabase(url!)
// nobody asks it for the shelf, so nothing is worked out
const works = new Works(connection, () => undefined)
makeApp({ db: connection.db, works, quiet: true }).listen(Number(port), '127.0.0.1', () =>
  process.stdout.write('up\n'),
)
