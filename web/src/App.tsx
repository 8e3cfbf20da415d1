import { useEffect } from 'react'
import { Route, Routes, useLocation } from 'react-router'
import styled, { css } from 'styled-components'
import { useCondition } from './api/copies'
import { EffectTable } from './api/effects'
import { Boundary } from './frame/Boundary'
import { Door } from './frame/Door'
import { Findings } from './frame/Findings'
import { LeadStands } from './frame/LeadStands'
import { NextStep } from './frame/NextStep'
import { PickedOtherwise } from './frame/PickedOtherwise'
import { Rail } from './frame/Rail'
import { ReadOnly } from './frame/ReadOnly'
import { Redirect } from './frame/Redirect'
import { SetStrip } from './frame/SetStrip'
import { TopBar } from './frame/TopBar'
import { Tour } from './frame/Tour'
import { titleOf } from './frame/titleOf'
import { Unknown } from './frame/Unknown'
import { useFocusKept } from './frame/useFocusKept'
import { useShortcuts } from './frame/useShortcuts'
import { ListenProvider } from './state/listen'
import { PlaceProvider, useChosen } from './state/place'
import { useIsStand } from './state/role'
import { narrow } from './theme/tokens'
import { useTheme } from './theme/useTheme'
import { fetchAhead, views } from './views/views'

export function App() {
  const { pathname } = useLocation()
  const standing = pathname.startsWith('/stand/')
  const [theme, setTheme] = useTheme(standing)
  // The stand works from what it keeps: it waits for nothing of the plan.
  if (standing)
    return (
      <Routes>
        <Route
          path="/stand/:show"
          element={
            <Boundary name="stand">
              <views.stand />
            </Boundary>
          }
        />
        <Route
          path="/stand/:show/all"
          element={
            <Boundary name="stand">
              <views.side />
            </Boundary>
          }
        />
      </Routes>
    )
  return (
    <Door>
      <PlaceProvider>
        {(ready, error) =>
          ready ? (
            <EffectTable>
              <ListenProvider>
                <Frame theme={theme} setTheme={setTheme} />
              </ListenProvider>
            </EffectTable>
          ) : (
            <Wait role={error ? 'alert' : 'status'}>{error ? error.message : 'Reading the plan…'}</Wait>
          )
        }
      </PlaceProvider>
    </Door>
  )
}

function Frame({ theme, setTheme }: { theme: 'stage' | 'bench'; setTheme: (t: 'stage' | 'bench') => void }) {
  const { plan, rig } = useChosen()
  const { pathname } = useLocation()
  const stand = useIsStand()
  const condition = useCondition(!stand)
  useShortcuts()
  useFocusKept()
  useEffect(fetchAhead, [])
  const empty = plan.gear.length === 0 && plan.sounds.length === 0 && plan.songs.length === 0
  const title = <title>{titleOf(pathname, plan, rig?.name)}</title>
  if (pathname.startsWith('/play'))
    return (
      <Alone id="main" tabIndex={-1}>
        {title}
        <Boundary name="play">
          <views.play />
        </Boundary>
      </Alone>
    )
  if (stand && !pathname.startsWith('/pack')) return <Redirect to="/pack/shows" />
  return (
    <Screen $reads={stand && pathname.startsWith('/pack')}>
      {title}
      <Skip
        href="#main"
        onClick={(e) => {
          e.preventDefault()
          document.getElementById('main')?.focus()
        }}
      >
        Skip to the main content
      </Skip>
      <ReadOnly />
      <TopBar theme={theme} setTheme={setTheme} />
      <SetStrip />
      <NextStep />
      <PickedOtherwise />
      {!stand && <LeadStands />}
      <Tour />
      <Body>
        <Rail />
        <Main id="main" tabIndex={-1}>
          <Routes>
            <Route
              path="/"
              element={
                condition.data?.report ? (
                  <Redirect to="/rescue" />
                ) : condition.isLoading ? null : empty ? (
                  <Redirect to="/begin" />
                ) : (
                  <Redirect to="/step" />
                )
              }
            />
            {Object.entries(views).map(([path, View]) => (
              <Route
                key={path}
                path={`/${path}/*`}
                element={
                  <Boundary key={path} name={path}>
                    <View />
                  </Boundary>
                }
              />
            ))}
            <Route path="*" element={<Unknown />} />
          </Routes>
        </Main>
        <Findings />
      </Body>
    </Screen>
  )
}

const Skip = styled.a`
  position: absolute; z-index: 9; left: 8px; top: 8px; padding: 8px 12px; background: var(--lit); color: var(--onLit);
  &:not(:focus) { clip-path: inset(50%); width: 1px; height: 1px; padding: 0; overflow: hidden; }
`
// Where the screen is narrow, all of it is one column that scrolls, with the work at the bottom, under the thumb. A phone at
// the stand reads Pack: there it is the view alone, with its own links.
const Screen = styled.div<{ $reads: boolean }>`
  display: flex; flex-direction: column; height: 100%;
  ${narrow} { display: block; overflow: auto; }
  ${(p) =>
    p.$reads &&
    css`@media (max-width: 700px) {
      display: block; min-width: 0;
      > :not(:last-child) { display: none; }
      > :last-child { display: block; height: 100%; }
      > :last-child > :not(main) { display: none; }
      main { padding: 12px; height: 100%; }
    }`}
`
// Play has the screen to itself, on a phone too.
const Alone = styled.main`--target: 44px; height: 100%; overflow: auto; outline: none; background: var(--bg);`
const Body = styled.div`
  display: grid; flex: 1; grid-template-columns: 104px minmax(0, 1fr) auto; min-height: 0;
  ${narrow} { display: flex; flex-direction: column; }
`
const Main = styled.main`
  position: relative; overflow: auto; padding: 18px 20px 32px; min-width: 0; outline: none;
  ${narrow} { overflow: visible; padding: 12px 12px 20px; }
`
const Wait = styled.p`padding: 40px;`
