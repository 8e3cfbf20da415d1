import { Navigate, NavLink, Route, Routes } from 'react-router'
import { Row, Stack, Tabs, Title } from '../../ui/layout'
import { Export } from './Export'
import { History } from './History'
import { Import } from './Import'
import { Log } from './Log'
import { Sheets } from './Sheets'
import { Shows } from './Shows'
import { Versions } from './Versions'

/** The paper that goes to the gig, the shows and their log, versions, files in and out. */
export function Pack() {
  return (
    <Stack>
      <Row $gap={20}>
        <Title>Pack</Title>
        <Tabs aria-label="Pack">
          <NavLink to="/pack/sheets">Sheets</NavLink>
          <NavLink to="/pack/shows">Shows</NavLink>
          <NavLink to="/pack/log">Log</NavLink>
          <NavLink to="/pack/versions">Versions</NavLink>
          <NavLink to="/pack/files">Files</NavLink>
        </Tabs>
      </Row>
      <Routes>
        <Route index element={<Navigate to="/pack/sheets" replace />} />
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
              <Import />
              <Export />
            </Stack>
          }
        />
      </Routes>
    </Stack>
  )
}
