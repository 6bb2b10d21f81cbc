import { useState } from 'react'
import { setupOf } from '../../../contract/lab.ts'
import type { LabSetup } from '../../../contract/lab.ts'
import { Button } from '../../parts/Button.tsx'
import { Dialog } from '../../parts/Dialog.tsx'
import { TextInput } from '../../parts/Inputs.tsx'

/** Takes a link that the line lab copied. */
export function FlownDialog({
  onClose,
  onFlown,
}: {
  readonly onClose: () => void
  readonly onFlown: (setup: LabSetup) => void
}) {
  const [address, setAddress] = useState('')
  const setup = setupOf(address.slice(address.indexOf('?') + 1))
  return (
    <Dialog open onClose={onClose} title="A throw of the line lab">
      <form
        onSubmit={(e) => {
          e.preventDefault()
          if (setup) onFlown(setup)
        }}
      >
        <TextInput
          label="Link of the line lab"
          value={address}
          onChange={(e) => setAddress(e.target.value)}
          error={address !== '' && !setup ? 'holds no setup of the line lab' : undefined}
          placeholder="Set the throw in the line lab, copy its link, paste it here"
        />
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="primary" type="submit" disabled={!setup}>
            Put it in
          </Button>
        </div>
      </form>
    </Dialog>
  )
}
