import { NavLink, Route, Routes } from 'react-router'
import { Redirect } from '../../frame/Redirect'
import { Unknown } from '../../frame/Unknown'
import { Row, Stack, Tabs, Title } from '../../ui/layout'
import { Bands } from './Bands'
import { SetLists } from './SetLists'
import { Songs } from './Songs'
import { Sounds } from './Sounds'

/** Sounds and their targets, songs and their sections, set lists, and who else plays. */
export function Hear() {
  return (
    <Stack>
      <Row $gap={20}>
        <Title>Hear</Title>
        <Tabs aria-label="Hear">
          <NavLink to="/hear/songs">Songs</NavLink>
          <NavLink to="/hear/sounds">Sounds</NavLink>
          <NavLink to="/hear/sets">Set lists</NavLink>
          <NavLink to="/hear/band">Band</NavLink>
        </Tabs>
      </Row>
      <Routes>
        <Route index element={<Redirect to="/hear/songs" />} />
        <Route path="songs" element={<Songs />} />
        <Route path="sounds" element={<Sounds />} />
        <Route path="sets" element={<SetLists />} />
        <Route path="band" element={<Bands />} />
        <Route path="*" element={<Unknown />} />
      </Routes>
    </Stack>
  )
}
