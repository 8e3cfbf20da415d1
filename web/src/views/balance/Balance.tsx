import { NavLink, Route, Routes } from 'react-router'
import { Unknown } from '../../frame/Unknown'
import { Row, Stack, Tabs, Title } from '../../ui/layout'
import { Levels } from './Levels'
import { Room } from './Room'

/** How loud and how dirty everything is, and what is heard of it among the band. */
export function Balance() {
  return (
    <Stack $gap={16}>
      <Row $gap={20}>
        <Title>Balance</Title>
        <Tabs aria-label="Balance">
          <NavLink to="/balance" end>
            Levels
          </NavLink>
          <NavLink to="/balance/room">Room</NavLink>
        </Tabs>
      </Row>
      <Routes>
        <Route index element={<Levels />} />
        <Route path="room" element={<Room />} />
        <Route path="*" element={<Unknown />} />
      </Routes>
    </Stack>
  )
}
