import type Router from '@koa/router'
import type { Context } from 'koa'
import {
  AtMachine,
  Inviting,
  Joining,
  Myself,
  Pairing,
  SignIn,
  Standing,
  Switched,
} from '../../contract/crew.ts'
import type { Me, Sharing } from '../../contract/crew.ts'
import { Id } from '../../contract/shelf.ts'
import type { Tries } from '../crew/tries.ts'
import { parse, Refusal } from '../middleware/problems.ts'
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

/** What lets others reach this machine. */
export interface SharingSwitch {
  readonly state: () => Sharing
  readonly turn: (on: boolean) => Promise<void>
}

/** Who comes in, with what, and what they may do. */
export function crewRoutes(
  router: Router,
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
  async function comeIn(ctx: Ctx, token: string | undefined, wrong: string): Promise<void> {
    if (token === undefined) throw new Refusal(422, 'Not let in', wrong, [{ path: '', message: wrong }])
    giveKey(ctx, token)
    ctx.body = told(await crew.whoHolds(db, token))
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

  router.get('/api/me', (ctx) => {
    ctx.body = told(whoOf(ctx), lacksMachineKey(ctx))
  })
  router.post('/api/at-machine', async (ctx: Ctx) => {
    const { secret } = parse(AtMachine, ctx.request.body)
    const wrong =
      'That is not the address of this machine: open the one that npm start printed last, on the machine itself.'
    // 256 bits are not guessed; counted, tries of strangers would keep the owner out of their own machine
    if (!machine.isOwn(ctx.req) || !machine.key?.fits(secret))
      throw new Refusal(422, 'Not let in', wrong, [{ path: '', message: wrong }])
    giveMachineKey(ctx, secret)
    ctx.body = told({ person: await crew.firstOwner(db), keyId: null })
  })
  router.put('/api/me', async (ctx: Ctx) => {
    const who = asking(ctx)
    const { before, ...myself } = parse(Myself, ctx.request.body)
    if (myself.passphrase !== undefined && who.person.hasPassphrase) await assured(ctx, before, 'before')
    const person = await crew.changeMyself(db, who, myself)
    if (myself.passphrase !== undefined) onRevoked()
    ctx.body = told({ ...who, person })
  })
  router.post('/api/sign-in', async (ctx: Ctx) => {
    const { name, passphrase, device } = parse(SignIn, ctx.request.body)
    canTakeKey(ctx)
    const token = await tries.allow({ what: 'passphrase', name, ...from(ctx) }, async () => {
      const id = await crew.knownBy(db, name, passphrase)
      return id && (await crew.admit(db, id, device))
    })
    await comeIn(ctx, token, 'Nobody here has that name and passphrase.')
  })
  router.post('/api/pair', async (ctx: Ctx) => {
    const { code, device } = parse(Pairing, ctx.request.body)
    canTakeKey(ctx)
    const token = await tries.allow({ what: 'code', ...from(ctx) }, () => crew.pair(db, code, device))
    await comeIn(
      ctx,
      token,
      'No device waits for that code: it was used, taken back, or is older than five minutes.',
    )
  })
  router.post('/api/join', async (ctx: Ctx) => {
    const joining = parse(Joining, ctx.request.body)
    canTakeKey(ctx)
    const token = await tries.allow({ what: 'invitation', ...from(ctx) }, () => crew.join(db, joining))
    await comeIn(ctx, token, 'The invitation was used, taken back, or is older than a week.')
  })
  router.post('/api/sign-out', async (ctx: Ctx) => {
    const { keyId } = asking(ctx)
    if (keyId !== null) await crew.revoke(db, keyId)
    onRevoked()
    takeKey(ctx)
    ctx.body = told(undefined)
  })
  router.post('/api/pairings', async (ctx: Ctx) => {
    ctx.body = await crew.openPairing(db, asking(ctx))
    letIn(ctx)
  })
  router.post('/api/invitations', async (ctx: Ctx) => {
    const { role, passphrase } = parse(Inviting, ctx.request.body)
    if (role === 'owner') await assured(ctx, passphrase)
    ctx.body = await crew.openInvitation(db, role, asking(ctx))
    letIn(ctx)
  })
  router.get('/api/passes', async (ctx: Ctx) => {
    ctx.body = await crew.readPasses(db, own(ctx))
  })
  router.delete('/api/passes/:id', async (ctx: Ctx) => {
    const id = parse(Id, ctx.params['id'])
    if (!(await crew.takePassBack(db, id, own(ctx))))
      throw new Refusal(404, 'Not found', `There is no open link or code ${id}.`)
    ctx.body = await crew.readPasses(db, own(ctx))
  })
  router.get('/api/failed-tries', async (ctx) => {
    ctx.body = await crew.readTries(db)
  })
  router.get('/api/people', async (ctx) => {
    ctx.body = await crew.readMembers(db)
  })
  router.put('/api/people/:id', async (ctx: Ctx) => {
    const id = parse(Id, ctx.params['id'])
    const { passphrase, ...standing } = parse(Standing, ctx.request.body)
    const now = (await crew.readMembers(db)).find((p) => p.id === id)
    const wasOwner = now?.role === 'owner' && now.removedAt === null
    if (now && !wasOwner && standing.role === 'owner' && !standing.removed) await assured(ctx, passphrase)
    const changed = await crew.changeMember(db, id, standing)
    if (!changed) throw new Refusal(404, 'Not found', `There is nobody ${id}.`)
    onRevoked()
    ctx.body = changed
  })
  /** Readers and scribes see and take away their own devices, owners everybody's. */
  const own = (ctx: Ctx) => {
    const { person } = asking(ctx)
    return person.role === 'owner' ? undefined : person.id
  }
  router.get('/api/keys', async (ctx: Ctx) => {
    ctx.body = await crew.readKeys(db, own(ctx))
  })
  router.delete('/api/keys/:id', async (ctx: Ctx) => {
    const id = parse(Id, ctx.params['id'])
    if (!(await crew.revoke(db, id, own(ctx))))
      throw new Refusal(404, 'Not found', `There is no device ${id}.`)
    onRevoked()
    ctx.body = await crew.readKeys(db, own(ctx))
  })

  const alone: Sharing = {
    on: false,
    switchable: false,
    urls: [],
    trustUrl: null,
    fingerprint: null,
    problem: null,
  }
  router.get('/api/sharing', (ctx) => {
    ctx.body = sharing?.state() ?? alone
  })
  router.put('/api/sharing', async (ctx: Ctx) => {
    const { on } = parse(Switched, ctx.request.body)
    if (!sharing?.state().switchable)
      throw new Refusal(409, 'Not here', 'How this server is reached is set where it is started.')
    await sharing.turn(on)
    if (on) letIn(ctx)
    ctx.body = sharing.state()
  })
}
