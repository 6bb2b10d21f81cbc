import { useState } from 'react'
import type { ReactNode } from 'react'
import { useForm } from 'react-hook-form'
import { PASSPHRASE_LENGTH } from '../../contract/crew.ts'
import { join, pair, signIn, usualDeviceName } from '../data/crew.ts'
import { useWaiting } from '../data/outbox.ts'
import { Button } from '../parts/Button.tsx'
import { Card } from '../parts/Card.tsx'
import { Choice } from '../parts/Choice.tsx'
import { toFields } from '../parts/fieldErrors.ts'
import { TextInput } from '../parts/Inputs.tsx'
import { Mark } from './Mark.tsx'

type Way = 'code' | 'passphrase'
interface Typed {
  readonly code: string
  readonly name: string
  readonly passphrase: string
  readonly device: string
}

/** What the address brings along behind its #, which no server ever sees. */
const brought = () => decodeURIComponent(location.hash.slice(1))

/** What stands at the machine itself, in a browser that has not opened the address that start printed. */
function Machine() {
  return (
    <div className="mt-3 space-y-3">
      <p>
        Others were let in to this Veer Line, so that this machine shows who it is too. Open the address that
        stands in the terminal where it was started: it ends in{' '}
        <span className="font-mono">/at-machine#…</span> and is needed once in each browser.
      </p>
      <p className="text-quiet">
        The terminal is gone? Type <span className="font-mono">npm start</span> again beside the running one:
        it prints the address and changes nothing. Whoever has a name here comes in over HTTPS.
      </p>
    </div>
  )
}

/** What stands instead of the app on a device that has not come in. */
export default function ComeIn({ atMachine }: { atMachine: boolean }) {
  const invitation = location.pathname === '/join' ? brought() : ''
  const code = location.pathname === '/pair' ? brought() : ''
  const [way, setWay] = useState<Way>('code')
  const waiting = useWaiting().length
  const { register, handleSubmit, setError, formState } = useForm<Typed>({
    defaultValues: { code, name: '', passphrase: '', device: usualDeviceName() },
  })
  const { errors, isSubmitting } = formState
  const act = handleSubmit(async (typed) => {
    try {
      if (invitation) await join(invitation, typed.name, typed.passphrase, typed.device)
      else if (way === 'code') await pair(typed.code, typed.device)
      else await signIn(typed.name, typed.passphrase, typed.device)
    } catch (e) {
      toFields(e, ['name', 'passphrase', 'device'], setError)
      setError('root', { message: (e as Error).message })
    }
  })
  const nameAndPassphrase = (hint?: ReactNode) => (
    <>
      <TextInput
        label="Your name"
        autoComplete="username"
        error={errors.name?.message}
        {...register('name', { required: 'must be given' })}
      />
      <TextInput
        label="Passphrase"
        type="password"
        autoComplete={invitation ? 'new-password' : 'current-password'}
        hint={hint}
        error={errors.passphrase?.message}
        {...register('passphrase', { required: 'must be given' })}
      />
    </>
  )
  return (
    <div className="grid min-h-dvh place-items-center bg-spruce p-4">
      <Card className="w-full max-w-md p-6" label="Come in">
        <div className="mb-4 flex items-center gap-2.5 rounded-lg bg-spruce px-3 py-2 text-on-spruce">
          <Mark />
          <span className="font-head text-lead font-bold">veer line</span>
        </div>
        <h1 className="text-title">
          {atMachine
            ? 'Open the address that start printed'
            : invitation
              ? 'You are invited'
              : code
                ? 'Pair this device'
                : 'Come in'}
        </h1>
        {atMachine ? (
          <Machine />
        ) : (
          <form className="mt-3 space-y-4" noValidate onSubmit={(e) => void act(e)}>
            {invitation ? (
              nameAndPassphrase(
                `At least ${PASSPHRASE_LENGTH[0]} characters; four unlike words are easily remembered.`,
              )
            ) : (
              <>
                {!code && (
                  <Choice
                    label="How"
                    value={way}
                    onChange={setWay}
                    options={[
                      { value: 'code', label: 'With a code' },
                      { value: 'passphrase', label: 'With a passphrase' },
                    ]}
                  />
                )}
                {way === 'code' ? (
                  <TextInput
                    label="Code"
                    hint="It is shown on the machine, in the terminal and in Settings, for five minutes."
                    autoComplete="one-time-code"
                    autoCapitalize="characters"
                    spellCheck={false}
                    error={errors.code?.message}
                    {...register('code', { required: 'must be given' })}
                  />
                ) : (
                  nameAndPassphrase()
                )}
              </>
            )}
            <TextInput
              label="What to call this device"
              error={errors.device?.message}
              {...register('device', { required: 'must be given' })}
            />
            {errors.root && (
              <p role="alert" className="font-medium text-accent">
                {errors.root.message}
              </p>
            )}
            {waiting > 0 && (
              <p className="text-note text-quiet">
                <span className="figure">{waiting}</span> {waiting === 1 ? 'write waits' : 'writes wait'} on
                this device; they are kept, and sent once you are in.
              </p>
            )}
            <Button kind="primary" type="submit" className="w-full" disabled={isSubmitting}>
              {invitation ? 'Join' : way === 'code' ? 'Pair this device' : 'Sign in'}
            </Button>
          </form>
        )}
      </Card>
    </div>
  )
}
