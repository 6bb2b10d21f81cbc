import { lazy, Suspense } from 'react'
import { createBrowserRouter, Navigate, Outlet, RouterProvider, useParams, useRouteError } from 'react-router'
import { Button } from '../parts/Button.tsx'
import { Card, Empty, Waiting } from '../parts/Card.tsx'
import { lastTrial } from './lastTrial.ts'
import { Shortcuts } from './Shortcuts.tsx'
import { TopBar } from './TopBar.tsx'

const Bench = lazy(() => import('../stations/bench/Bench.tsx'))
const Shelf = lazy(() => import('../stations/shelf/Shelf.tsx'))
const DiscPage = lazy(() => import('../stations/shelf/DiscPage.tsx'))
const Field = lazy(() => import('../stations/field/Field.tsx'))
const Plan = lazy(() => import('../stations/plan/Plan.tsx'))
const SheetEntry = lazy(() => import('../stations/plan/SheetEntry.tsx'))
const ShortGame = lazy(() => import('../stations/short/ShortGame.tsx'))
const Readout = lazy(() => import('../stations/readout/Readout.tsx'))
const Import = lazy(() => import('../stations/readout/Import.tsx'))
const Settings = lazy(() => import('../stations/settings/Settings.tsx'))

function Frame() {
  return (
    <>
      <TopBar />
      <main className="mx-auto w-full max-w-[1600px]">
        <Suspense fallback={<Waiting what="the station" />}>
          <Outlet />
        </Suspense>
      </main>
      <Shortcuts />
    </>
  )
}

/** A station without a trial in its address goes to the trial last looked at. */
function ToTrial({ station }: { station: 'plan' | 'field' | 'readout' }) {
  const last = lastTrial.get()
  return <Navigate replace to={last === null ? '/' : `/trials/${last}/${station}`} />
}

/** Stations of a trial start afresh when the trial changes. */
function OfTrial({
  station: Station,
}: {
  station: typeof Plan | typeof SheetEntry | typeof ShortGame | typeof Field | typeof Readout | typeof Import
}) {
  const { trialId } = useParams()
  return <Station key={trialId} trialId={trialId!} />
}

/** A disc’s page starts afresh for another disc. */
function OfDisc() {
  const { discId } = useParams()
  return <DiscPage key={discId} discId={discId!} />
}

function Broken() {
  const error = useRouteError()
  return (
    <Card className="m-4 p-5">
      <h1 className="text-title">This screen stopped working</h1>
      <p className="mt-1">{error instanceof Error ? error.message : String(error)}</p>
      <p className="mt-1 mb-4 text-quiet">What you kept is stored. Going back to the bench usually helps.</p>
      <Button kind="primary" onClick={() => location.assign('/')}>
        To the bench
      </Button>
    </Card>
  )
}

function Lost() {
  return (
    <Empty
      title="There is nothing at this address"
      action={<Button onClick={() => location.assign('/')}>To the bench</Button>}
    >
      The trial or disc may have been moved. The bench lists every trial.
    </Empty>
  )
}

const router = createBrowserRouter([
  {
    element: <Frame />,
    errorElement: <Broken />,
    children: [
      { index: true, element: <Bench /> },
      { path: 'shelf', element: <Shelf /> },
      { path: 'shelf/:discId', element: <OfDisc /> },
      { path: 'plan', element: <ToTrial station="plan" /> },
      { path: 'field', element: <ToTrial station="field" /> },
      { path: 'readout', element: <ToTrial station="readout" /> },
      { path: 'trials/:trialId/plan', element: <OfTrial station={Plan} /> },
      { path: 'trials/:trialId/sheet', element: <OfTrial station={SheetEntry} /> },
      { path: 'trials/:trialId/short', element: <OfTrial station={ShortGame} /> },
      { path: 'trials/:trialId/field', element: <OfTrial station={Field} /> },
      { path: 'trials/:trialId/readout', element: <OfTrial station={Readout} /> },
      { path: 'trials/:trialId/import', element: <OfTrial station={Import} /> },
      { path: 'settings', element: <Settings /> },
      { path: '*', element: <Lost /> },
    ],
  },
])

export const App = () => <RouterProvider router={router} />
