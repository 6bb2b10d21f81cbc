import { useEffect, useState } from 'react'
import { atMachine } from '../data/crew.ts'
import { Button } from '../parts/Button.tsx'
import { Card } from '../parts/Card.tsx'

/** Opens the app at the machine itself, by what stands behind the # of the address that start printed. */
export function AtMachinePage() {
  const [wrong, setWrong] = useState<string>()
  useEffect(() => {
    atMachine(decodeURIComponent(location.hash.slice(1))).catch((e: Error) => setWrong(e.message))
  }, [])
  if (wrong === undefined) return null
  return (
    <Card className="mx-auto mt-[16vh] w-[calc(100%-2rem)] max-w-lg p-6">
      <h1 className="text-title">This address does not open this machine</h1>
      <p className="mt-1">{wrong}</p>
      <Button kind="primary" className="mt-4" onClick={() => location.assign('/')}>
        Go on
      </Button>
    </Card>
  )
}
