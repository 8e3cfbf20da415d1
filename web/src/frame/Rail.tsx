import { Link, NavLink } from 'react-router'
import styled from 'styled-components'
import { useIsStand } from '../state/role'
import { narrow } from '../theme/tokens'
import { Switch } from '../ui/controls'
import { useKeysOn } from './useShortcuts'
import { verbsOf } from './verbs'

export function Rail() {
  const [on, set] = useKeysOn()
  const stand = useIsStand()
  return (
    <Nav aria-label="Work">
      {verbsOf(stand).map((v) => (
        <Verb key={v.path} to={v.path}>
          {v.name} <kbd>{v.key}</kbd>
        </Verb>
      ))}
      <Foot>
        <Switch label="Keys" value={on} onChange={set} />
        <Link to="/about">About</Link>
      </Foot>
    </Nav>
  )
}

const Nav = styled.nav`
  border-right: 1px solid var(--line); padding: 14px 6px 14px 10px; display: flex; flex-direction: column; gap: 6px; overflow: auto;
  ${narrow} { flex-direction: row; gap: 2px; order: 1; position: sticky; bottom: 0; z-index: 3; padding: 4px 6px; border: 0; border-top: 1px solid var(--line); background: var(--bg); }
`

const Verb = styled(NavLink)`
  font: 600 18px/1 var(--face-label); letter-spacing: 0.02em; text-transform: uppercase; color: var(--muted);
  text-decoration: none; padding: 12px 7px; white-space: nowrap;
  kbd { font: 400 12px var(--face-figures); color: var(--muted); margin-left: 2px; }
  ${narrow} { font-size: 16px; padding: 14px 8px; kbd { display: none; } }
  &:hover { color: var(--text); }
  &[aria-current='page'] {
    color: var(--onTape); background: var(--tape-yellow); clip-path: polygon(0 6%, 100% 0, 99% 94%, 1% 100%);
    kbd { color: var(--onTape); }
  }
`

const Foot = styled.div`
  margin-top: auto; font-size: 12px; color: var(--muted); display: grid; gap: 6px;
  a { color: var(--muted); padding: 4px 0; min-height: 24px; }
  ${narrow} { margin: 0; display: flex; align-items: center; padding: 0 8px; label { display: none; } }
`
