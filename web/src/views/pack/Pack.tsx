import { NavLink, Route, Routes } from 'react-router'
import styled from 'styled-components'
import { Redirect } from '../../frame/Redirect'
import { Unknown } from '../../frame/Unknown'
import { useIsStand } from '../../state/role'
import { Row, Stack, Tabs, Title } from '../../ui/layout'
import { Copies } from './Copies'
import { Devices } from './Devices'
import { Export } from './Export'
import { History } from './History'
import { Import } from './Import'
import { Log } from './Log'
import { Sheets } from './Sheets'
import { Shows } from './Shows'
import { Versions } from './Versions'

/** The paper that goes to the gig, the shows and their log, versions, files in and out. */
export function Pack() {
  const stand = useIsStand()
  return (
    <Stack>
      <Row $gap={20}>
        <Title>Pack</Title>
        <Tabs aria-label="Pack">
          <NavLink to="/pack/sheets">Sheets</NavLink>
          <NavLink to="/pack/shows">Shows</NavLink>
          <NavLink to="/pack/log">Log</NavLink>
          {!stand && (
            <>
              <NavLink to="/pack/versions">Versions</NavLink>
              <NavLink to="/pack/files">Files</NavLink>
              <NavLink to="/pack/devices">Devices</NavLink>
            </>
          )}
          <OnPhone to="/play">Play</OnPhone>
        </Tabs>
      </Row>
      <Routes>
        <Route index element={<Redirect to="/pack/sheets" />} />
        <Route path="sheets" element={<Sheets />} />
        <Route path="shows" element={<Shows />} />
        <Route path="shows/:id" element={<Shows />} />
        <Route path="log" element={<Log />} />
        <Route
          path="versions"
          element={
            <Stack $gap={18}>
              <Versions />
              <History />
            </Stack>
          }
        />
        <Route
          path="files"
          element={
            <Stack $gap={18}>
              <Copies />
              <Import />
              <Export />
            </Stack>
          }
        />
        <Route path="devices" element={<Devices />} />
        <Route path="*" element={<Unknown />} />
      </Routes>
    </Stack>
  )
}

// Where the rail has no room.
const OnPhone = styled(NavLink)`@media (min-width: 701px) { display: none; }`
