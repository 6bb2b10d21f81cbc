import type Router from '@koa/router'
import type { Context } from 'koa'
import { Inviting, Joining, Myself, Pairing, SignIn, Standing, Switched } from '../../contract/crew.ts'
import type { Me, Sharing } from '../../contract/crew.ts'
import { Id } from '../../contract/shelf.ts'
import type { Tries } from '../crew/tries.ts'
import { parse, Refusal } from '../middleware/problems.ts'
import { giveKey, takeKey, whoOf } from '../middleware/who.ts'
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
  sharing: SharingSwitch | undefined,
): void {
  const asking = (ctx: Pick<Ctx, 'state'>) => whoOf(ctx)!
  const told = (who: crew.Who | undefined): Me => ({ person: who?.person ?? null, keyId: who?.keyId ?? null })

  /** Lets somebody in who showed what they should, and says who they are. */
  async function comeIn(ctx: Ctx, token: string | undefined, wrong: string): Promise<void> {
    if (token === undefined) throw new Refusal(422, 'Not let in', wrong, [{ path: '', message: wrong }])
    giveKey(ctx, token)
    ctx.body = told(await crew.whoHolds(db, token))
  }
  const from = (ctx: Pick<Context, 'ip'>) => ({ address: ctx.ip })

  router.get('/api/me', (ctx) => {
    ctx.body = told(whoOf(ctx))
  })
  router.put('/api/me', async (ctx: Ctx) => {
    const who = asking(ctx)
    ctx.body = told({ ...who, person: await crew.changeMyself(db, who, parse(Myself, ctx.request.body)) })
  })
  router.post('/api/sign-in', async (ctx: Ctx) => {
    const { name, passphrase, device } = parse(SignIn, ctx.request.body)
    const token = await tries.allow({ name, ...from(ctx) }, async () => {
      const id = await crew.knownBy(db, name, passphrase)
      return id && (await crew.admit(db, id, device))
    })
    await comeIn(ctx, token, 'Nobody here has that name and passphrase.')
  })
  router.post('/api/pair', async (ctx: Ctx) => {
    const { code, device } = parse(Pairing, ctx.request.body)
    const token = await tries.allow(from(ctx), () => crew.pair(db, code, device))
    await comeIn(ctx, token, 'No device waits for that code: it was used, or is older than five minutes.')
  })
  router.post('/api/join', async (ctx: Ctx) => {
    const joining = parse(Joining, ctx.request.body)
    const token = await tries.allow(from(ctx), () => crew.join(db, joining))
    await comeIn(ctx, token, 'The invitation was used, taken back, or is older than a week.')
  })
  router.post('/api/sign-out', async (ctx: Ctx) => {
    const { keyId } = asking(ctx)
    if (keyId !== null) await crew.revoke(db, keyId)
    takeKey(ctx)
    ctx.body = told(undefined)
  })
  router.post('/api/pairings', async (ctx: Ctx) => {
    ctx.body = await crew.openPairing(db, asking(ctx).person.id)
  })
  router.post('/api/invitations', async (ctx: Ctx) => {
    const { role } = parse(Inviting, ctx.request.body)
    ctx.body = await crew.openInvitation(db, role, asking(ctx).person.id)
  })
  router.get('/api/people', async (ctx) => {
    ctx.body = await crew.readMembers(db)
  })
  router.put('/api/people/:id', async (ctx: Ctx) => {
    const id = parse(Id, ctx.params['id'])
    const changed = await crew.changeMember(db, id, parse(Standing, ctx.request.body))
    if (!changed) throw new Refusal(404, 'Not found', `There is nobody ${id}.`)
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
    ctx.body = sharing.state()
  })
}
