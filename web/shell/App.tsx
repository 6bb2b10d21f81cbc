import { createElement, lazy, Suspense, useEffect, useRef } from 'react'
import {
  createBrowserRouter,
  Navigate,
  Outlet,
  RouterProvider,
  useLocation,
  useParams,
  useRouteError,
} from 'react-router'
import type { RouteObject } from 'react-router'
import { useMe } from '../data/crew.ts'
import { useNews } from '../data/news.ts'
import { useTakeAlong } from '../data/takeAlong.ts'
import { useUpdate } from '../data/update.ts'
import { Button } from '../parts/Button.tsx'
import { Card, Empty, Reload, WaitingNote } from '../parts/Card.tsx'
import type { Door, Screen } from '../parts/door.ts'
import { addressIn, Stations } from '../parts/StationLink.tsx'
import { DOORS } from '../stations/doors.ts'
import { AtMachinePage } from './AtMachine.tsx'
import { Bars } from './Bars.tsx'
import { lastTrial } from './lastTrial.ts'
import { Newer } from './Newer.tsx'
import { Shortcuts } from './Shortcuts.tsx'

/** By then, at the latest, a list that led to a station has closed and given the focus back, ms. */
const CLOSED_MS = [0, 30, 80]

function Frame() {
  useNews()
  useTakeAlong()
  const { pathname } = useLocation()
  useUpdate(pathname)
  const main = useRef<HTMLElement>(null)
  const from = useRef(pathname)
  useEffect(() => {
    if (from.current === pathname) return
    from.current = pathname
    // keys belong to the station that was opened, not to what opened it
    // once a list or a menu that led here has closed and given the focus back
    const timers = CLOSED_MS.map((ms) =>
      setTimeout(() => {
        // a dialog that opened with it keeps what it has
        if (!main.current?.contains(document.activeElement) && !document.querySelector('[role="dialog"]'))
          main.current?.focus({ preventScroll: true })
      }, ms),
    )
    return () => timers.forEach(clearTimeout)
  }, [pathname])
  return (
    <Stations value={DOORS}>
      <Bars />
      <Newer />
      <main
        ref={main}
        tabIndex={-1}
        className="mx-auto w-full outline-none max-w-[1600px] max-md:pb-[calc(3.75rem+env(safe-area-inset-bottom))]"
      >
        <Suspense fallback={<WaitingNote what="the station" />}>
          <Outlet />
        </Suspense>
      </main>
      <Shortcuts />
    </Stations>
  )
}

/** A screen starts afresh when what it is about changes: another trial, another disc; not when it is looked at another way. */
function Shown({ screen }: { screen: Screen }) {
  const params = useParams() as Record<string, string>
  const about = Object.keys(params).filter((name) => !screen.path.includes(`:${name}?`))
  return createElement(screen.show, { key: about.map((name) => params[name]).join(), ...params })
}

/** A station of a trial without a trial in its address goes to the trial last looked at. */
function ToTrial({ door }: { door: Door }) {
  const trialId = lastTrial.get()
  return <Navigate replace to={(trialId !== null && addressIn(DOORS, door.id, { trialId })) || '/'} />
}

/** What browsers say when a part of the app is not there any more: a newer one is served since. */
const GONE = /dynamically imported module|module script failed|error loading dynamically/i

function Broken() {
  const error = useRouteError()
  if (error instanceof Error && GONE.test(error.message))
    return (
      <Card className="mx-auto mt-[16vh] w-[calc(100%-2rem)] max-w-lg p-6">
        <h1 className="text-title">The app has been updated</h1>
        <p className="mt-1">
          This page is of an older day. What you kept is stored, and sent after a reload.
        </p>
        <Reload />
      </Card>
    )
  return (
    <Card className="mx-auto mt-[16vh] w-[calc(100%-2rem)] max-w-lg p-6">
      <h1 className="text-title">This screen stopped working</h1>
      <p className="mt-1">{error instanceof Error ? error.message : String(error)}</p>
      <p className="mt-1 mb-4 text-quiet">What you kept is stored. Starting over usually helps.</p>
      <Button kind="primary" onClick={() => location.assign('/')}>
        Start over
      </Button>
    </Card>
  )
}

function Lost() {
  return (
    <Empty
      title="There is nothing at this address"
      action={<Button onClick={() => location.assign('/')}>Start over</Button>}
    >
      The trial or disc may have been moved. The first screen lists what there is.
    </Empty>
  )
}

const routesOf = (door: Door): RouteObject[] => {
  const base = door.group === 'trial' ? 'trials/:trialId/' : ''
  const own = Object.values(door.screens).map((screen) => ({
    path: base + screen.path,
    element: <Shown screen={screen} />,
  }))
  return door.group === 'trial'
    ? [...own, { path: door.screens.main.path, element: <ToTrial door={door} /> }]
    : own
}

/** What stands at the bare address where no station claims it: the first of the shed. */
const home: RouteObject[] = DOORS.some((d) => d.screens.main.path === '')
  ? []
  : [{ index: true, element: <Navigate replace to={addressIn(DOORS, DOORS[0]!.id) ?? '/'} /> }]

const router = createBrowserRouter([
  {
    element: <Frame />,
    errorElement: <Broken />,
    children: [...home, ...DOORS.flatMap(routesOf), { path: '*', element: <Lost /> }],
  },
])

const ComeIn = lazy(() => import('./ComeIn.tsx'))

/** The app, for whoever is in on this device. */
export function App() {
  const me = useMe()
  if (location.pathname === '/at-machine') return <AtMachinePage />
  if (!me) return null
  if (!me.person)
    return (
      <Suspense>
        <ComeIn atMachine={me.lacksMachineKey} />
      </Suspense>
    )
  return <RouterProvider router={router} />
}
