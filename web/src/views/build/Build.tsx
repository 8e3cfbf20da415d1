import { NavLink, Route, Routes } from 'react-router'
import { Redirect } from '../../frame/Redirect'
import { Unknown } from '../../frame/Unknown'
import { useChosen } from '../../state/place'
import { Muted, Row, Stack, Tabs, Title } from '../../ui/layout'
import { Board } from './Board'
import { Boards } from './Boards'
import { PowerPlan } from './PowerPlan'

/** The board as it is built: where everything stands, and what feeds each box. */
export function Build() {
  const { rig } = useChosen()
  if (!rig || (rig.path ?? []).length === 0) {
    return (
      <Stack>
        <Title>Build</Title>
        <Muted>
          Build gives every box its place on a board and a power output that fits it. It needs a rig with a
          chain: make one in Order.
        </Muted>
      </Stack>
    )
  }
  return (
    <Stack>
      <Row $gap={20}>
        <Title>Build</Title>
        <Tabs aria-label="Build">
          <NavLink to="/build/board">Board</NavLink>
          <NavLink to="/build/power">Power</NavLink>
          <NavLink to="/build/boards">Boards compared</NavLink>
        </Tabs>
      </Row>
      <Routes>
        <Route index element={<Redirect to="/build/board" />} />
        <Route path="board" element={<Board rig={rig} />} />
        <Route path="power" element={<PowerPlan rig={rig} />} />
        <Route path="boards" element={<Boards rig={rig} />} />
        <Route path="*" element={<Unknown />} />
      </Routes>
    </Stack>
  )
}
