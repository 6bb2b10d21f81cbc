import { useState } from 'react'
import { Button } from './Button.tsx'
import { TextInput } from './Inputs.tsx'
import { say } from '../data/say.ts'

/** Claims in words, each to be tested. */
export function Claims({
  title,
  claims,
  locked,
  onClaims,
}: {
  title: string
  claims: readonly string[]
  locked: boolean
  onClaims: (claims: string[]) => void
}) {
  const [text, setText] = useState('')
  const add = () => {
    if (text.trim() === '') return
    onClaims([...claims, text.trim()])
    setText('')
  }
  if (locked && claims.length === 0) return null
  return (
    <div>
      <h3 className="font-semibold">{title}</h3>
      <ul>
        {claims.map((c) => (
          <li key={c} className="flex items-center gap-2 border-b border-rule py-1">
            <span className="flex-1">“{c}”</span>
            {!locked && (
              <button
                type="button"
                aria-label={`Remove “${c}”`}
                className="text-note text-quiet underline underline-offset-4 max-md:min-h-11"
                onClick={() => {
                  onClaims(claims.filter((x) => x !== c))
                  say('The claim was removed.', { label: 'Restore', run: () => onClaims([...claims]) })
                }}
              >
                Remove
              </button>
            )}
          </li>
        ))}
      </ul>
      {!locked && claims.length < 12 && (
        <form
          className="mt-1.5 flex items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            add()
          }}
        >
          <TextInput
            label="A claim"
            className="min-w-0 flex-1"
            maxLength={200}
            value={text}
            placeholder="flies farther"
            onChange={(e) => setText(e.target.value)}
          />
          <Button type="submit" disabled={text.trim() === ''}>
            Add
          </Button>
        </form>
      )}
    </div>
  )
}
