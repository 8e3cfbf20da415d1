import { NavLink, Route, Routes } from 'react-router'
import { Unknown } from '../../frame/Unknown'
import { Row, Stack, Tabs, Title } from '../../ui/layout'
import { DialIn } from './DialIn'
import { Levels } from './Levels'
import { Room } from './Room'

/** How loud and how dirty everything is, what is heard of it among the band, and what each knob does. */
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
          <NavLink to="/balance/dial">Dial in</NavLink>
        </Tabs>
      </Row>
      <Routes>
        <Route index element={<Levels />} />
        <Route path="room" element={<Room />} />
        <Route path="dial" element={<DialIn />} />
        <Route path="*" element={<Unknown />} />
      </Routes>
    </Stack>
  )
}
