import { once } from 'node:events'
import net from 'node:net'
import type { AddressInfo } from 'node:net'
import { Transform } from 'node:stream'

/** The line between a server and its database: as it is, cut, or with a pause before everything that goes through it. */
export class Line {
  state: 'fine' | 'gone' | 'slow' = 'fine'
  #ends = new Set<net.Socket>()
  #door = net.createServer((near) => {
    if (this.state === 'gone') return void near.destroy()
    const far = net.connect(Number(this.to.port), this.to.hostname)
    for (const [from, into] of [
      [near, far],
      [far, near],
    ] as const) {
      this.#ends.add(from)
      from.on('error', () => into.destroy())
      from.on('close', () => (this.#ends.delete(from), into.destroy()))
      from.pipe(this.#pause()).pipe(into)
    }
  })
  constructor(private readonly to: URL) {}

  #pause = () =>
    new Transform({
      transform: (chunk, _, done) => {
        if (this.state === 'slow') setTimeout(done, 40, null, chunk)
        else done(null, chunk)
      },
    })
  /** Another database of the same server, beside this line. */
  get far(): string {
    const url = new URL(this.to)
    url.pathname = '/postgres'
    return url.href
  }
  /** Address of the database through this line. */
  async open(): Promise<string> {
    this.#door.listen(0, '127.0.0.1')
    await once(this.#door, 'listening')
    const url = new URL(this.to)
    url.port = String((this.#door.address() as AddressInfo).port)
    return url.href
  }
  cut(): void {
    this.state = 'gone'
    for (const end of this.#ends) end.destroy()
  }
  close(): void {
    this.#door.close()
    this.cut()
  }
}
