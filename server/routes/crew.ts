import type { Context } from 'koa'
import type { Me, SharingNow } from '../../contract/crew.ts'
import type { Tries } from '../crew/tries.ts'
import { Refusal } from '../middleware/problems.ts'
import {
  canTakeKey,
  giveKey,
  giveMachineKey,
  lacksMachineKey,
  takeKey,
  tokensOf,
  whoOf,
} from '../middleware/who.ts'
import type { Machine } from '../middleware/who.ts'
import type { Database } from '../store/database.ts'
import * as crew from '../store/crew.ts'
import type { Ctx } from './router.ts'
import type { Serve } from './serve.ts'

/** What lets others reach this machine. */
export interface SharingSwitch {
  readonly state: () => SharingNow
  readonly turn: (on: boolean) => Promise<void>
}

/** Who comes in, with what, and what they may do. */
export function crewRoutes(
  on: Serve,
  db: Database,
  tries: Tries,
  machine: Machine,
  sharing: SharingSwitch | undefined,
  /** Somebody may come in no more, or do less. */
  onRevoked: () => void,
): void {
  const asking = (ctx: Pick<Ctx, 'state'>) => whoOf(ctx)!
  const told = (who: crew.Who | undefined, lacks = false): Me => ({
    person: who?.person ?? null,
    keyId: who?.keyId ?? null,
    lacksMachineKey: lacks,
  })
  /** From now on the machine itself shows who it is; the browser there that let somebody in goes on. */
  const letIn = (ctx: Ctx) => {
    if (machine.key?.need() && machine.isOwn(ctx.req)) giveMachineKey(ctx, machine.key.secret!)
  }

  /** Lets somebody in who showed what they should, and says who they are. */
  async function comeIn(ctx: Ctx, token: string | undefined, wrong: string): Promise<Me> {
    if (token === undefined) throw new Refusal(422, 'Not let in', wrong, [{ path: '', message: wrong }])
    giveKey(ctx, token)
    return told(await crew.whoHolds(db, token))
  }
  const from = (ctx: Pick<Context, 'ip' | 'cookies'>) => ({ address: ctx.ip, tokens: tokensOf(ctx) })
  /** Whoever asks shows once more that it is them; guesses are counted. */
  const assured = async (ctx: Ctx, passphrase: string | undefined, field?: string) => {
    const who = asking(ctx)
    if (who.keyId === null) return
    await tries.allow({ what: 'passphrase', name: who.person.name, ...from(ctx) }, async () => {
      await crew.assured(db, who, passphrase, field)
      return true
    })
  }

  on('GET /api/me', (_, ctx) => told(whoOf(ctx), lacksMachineKey(ctx)))
  on('POST /api/at-machine', async ({ body: { secret } }, ctx) => {
    const wrong =
      'That is not the address of this machine: open the one that npm start printed last, on the machine itself.'
    // 256 bits are not guessed; counted, tries of strangers would keep the owner out of their own machine
    if (!machine.isOwn(ctx.req) || !machine.key?.fits(secret))
      throw new Refusal(422, 'Not let in', wrong, [{ path: '', message: wrong }])
    giveMachineKey(ctx, secret)
    return told({ person: await crew.firstOwner(db), keyId: null })
  })
  on('PUT /api/me', async ({ body: { before, ...myself } }, ctx) => {
    const who = asking(ctx)
    if (myself.passphrase !== undefined && who.person.hasPassphrase) await assured(ctx, before, 'before')
    const person = await crew.overwriteMyself(db, who, myself)
    if (myself.passphrase !== undefined) onRevoked()
    return told({ ...who, person })
  })
  on('POST /api/sign-in', async ({ body: { name, passphrase, device } }, ctx) => {
    canTakeKey(ctx)
    const token = await tries.allow({ what: 'passphrase', name, ...from(ctx) }, async () => {
      const id = await crew.knownBy(db, name, passphrase)
      return id && (await crew.admit(db, id, device))
    })
    return await comeIn(ctx, token, 'Nobody here has that name and passphrase.')
  })
  on('POST /api/pair', async ({ body: { code, device } }, ctx) => {
    canTakeKey(ctx)
    const token = await tries.allow({ what: 'code', ...from(ctx) }, () => crew.takePairing(db, code, device))
    return await comeIn(
      ctx,
      token,
      'No device waits for that code: it was used, taken back, or is older than five minutes.',
    )
  })
  on('POST /api/join', async ({ body: joining }, ctx) => {
    canTakeKey(ctx)
    const token = await tries.allow({ what: 'invitation', ...from(ctx) }, () =>
      crew.takeInvitation(db, joining),
    )
    return await comeIn(ctx, token, 'The invitation was used, taken back, or is older than a week.')
  })
  on('POST /api/sign-out', async (_, ctx) => {
    const { keyId } = asking(ctx)
    if (keyId !== null) await crew.revoke(db, keyId)
    onRevoked()
    takeKey(ctx)
    return told(undefined)
  })
  on('POST /api/pairings', async (_, ctx) => {
    const pass = await crew.makePairing(db, asking(ctx))
    letIn(ctx)
    return pass
  })
  on('POST /api/invitations', async ({ body: { role, passphrase } }, ctx) => {
    if (role === 'owner') await assured(ctx, passphrase)
    const pass = await crew.openInvitation(db, role, asking(ctx))
    letIn(ctx)
    return pass
  })
  on('GET /api/passes', (_, ctx) => crew.readPasses(db, own(ctx)))
  on('DELETE /api/passes/:id', async ({ params: { id } }, ctx) => {
    if (!(await crew.dropPass(db, id, own(ctx))))
      throw new Refusal(404, 'Not found', `There is no open link or code ${id}.`)
    return await crew.readPasses(db, own(ctx))
  })
  on('GET /api/failed-tries', () => crew.readTries(db))
  on('GET /api/people', () => crew.readMembers(db))
  on('PUT /api/people/:id', async ({ params: { id }, body: { passphrase, ...standing } }, ctx) => {
    const now = (await crew.readMembers(db)).find((p) => p.id === id)
    const wasOwner = now?.role === 'owner' && now.removedAt === null
    if (now && !wasOwner && standing.role === 'owner' && !standing.removed) await assured(ctx, passphrase)
    const changed = await crew.overwriteMember(db, id, standing)
    if (!changed) throw new Refusal(404, 'Not found', `There is nobody ${id}.`)
    onRevoked()
    return changed
  })
  /** Readers and scribes see and take away their own devices, owners everybody's. */
  const own = (ctx: Ctx) => {
    const { person } = asking(ctx)
    return person.role === 'owner' ? undefined : person.id
  }
  on('GET /api/keys', (_, ctx) => crew.readKeys(db, own(ctx)))
  on('DELETE /api/keys/:id', async ({ params: { id } }, ctx) => {
    if (!(await crew.revoke(db, id, own(ctx))))
      throw new Refusal(404, 'Not found', `There is no device ${id}.`)
    onRevoked()
    return await crew.readKeys(db, own(ctx))
  })

  const alone: SharingNow = {
    on: false,
    switchable: false,
    urls: [],
    trustUrl: null,
    fingerprint: null,
    problem: null,
  }
  on('GET /api/sharing', () => sharing?.state() ?? alone)
  on('PUT /api/sharing', async ({ body }, ctx) => {
    if (!sharing?.state().switchable)
      throw new Refusal(409, 'Not here', 'How this server is reached is set where it is started.')
    await sharing.turn(body.on)
    if (body.on) letIn(ctx)
    return sharing.state()
  })
}
