import { useForm } from 'react-hook-form'
import { PASSPHRASE_LENGTH } from '../../../../contract/crew.ts'
import type { Member } from '../../../../contract/crew.ts'
import { changeMyself, signOut } from '../../../data/crew.ts'
import { useWaiting } from '../../../data/outbox.ts'
import { Button } from '../../../parts/Button.tsx'
import { Card } from '../../../parts/Card.tsx'
import { toFields } from '../../../parts/fieldErrors.ts'
import { TextInput } from '../../../parts/Inputs.tsx'
import { say, sayWrong } from '../../../data/say.ts'

interface Typed {
  readonly name: string
  readonly before: string
  readonly passphrase: string
}

/** What whoever is in is called, and signs in with. */
export function MyselfCard({ me, signedIn }: { me: Member; signedIn: boolean }) {
  const waiting = useWaiting().length
  const { register, handleSubmit, formState, setError, reset } = useForm<Typed>({
    values: { name: me.name, before: '', passphrase: '' },
  })
  const { errors, isDirty, isSubmitting } = formState
  const keep = handleSubmit(async ({ name, before, passphrase }) => {
    try {
      await changeMyself({
        name,
        ...(passphrase !== '' && { passphrase, ...(before !== '' && { before }) }),
      })
      reset({ name, before: '', passphrase: '' })
      say(passphrase === '' ? 'Your name was kept.' : 'Kept. Your other devices are signed out.')
    } catch (e) {
      if (!toFields(e, ['name', 'before', 'passphrase'], setError)) sayWrong((e as Error).message)
    }
  })
  return (
    <Card className="p-5" label="You">
      <h2 className="mb-2 text-title">You</h2>
      <form className="space-y-3" noValidate onSubmit={(e) => void keep(e)}>
        <TextInput
          label="Your name"
          autoComplete="username"
          error={errors.name?.message}
          {...register('name')}
        />
        {me.hasPassphrase && signedIn && (
          <TextInput
            label="Passphrase now"
            type="password"
            autoComplete="current-password"
            error={errors.before?.message}
            {...register('before')}
          />
        )}
        <TextInput
          label={me.hasPassphrase ? 'Another passphrase' : 'A passphrase, to sign in without a code'}
          type="password"
          autoComplete="new-password"
          hint={`Leave empty to keep ${me.hasPassphrase ? 'the one you have' : 'to codes'}; at least ${PASSPHRASE_LENGTH[0]} characters.`}
          error={errors.passphrase?.message}
          {...register('passphrase')}
        />
        <div className="flex flex-wrap items-center gap-3">
          <Button kind="primary" type="submit" disabled={!isDirty || isSubmitting}>
            Keep
          </Button>
          {signedIn && (
            <Button kind="quiet" onClick={() => void signOut().catch((e: Error) => sayWrong(e.message))}>
              Sign this device out
            </Button>
          )}
        </div>
        {signedIn && waiting > 0 && (
          <p className="text-note text-quiet">
            <span className="figure">{waiting}</span> waiting here would stay on this device until somebody
            comes in on it.
          </p>
        )}
      </form>
    </Card>
  )
}
