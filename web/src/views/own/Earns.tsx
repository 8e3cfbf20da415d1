import styled from 'styled-components'
import { useLookup } from '../../api/plan'
import type { Choice } from '../../api/types'
import { useChosen } from '../../state/place'
import { tape } from '../../theme/tokens'
import { Tape } from '../../ui/layout'
import { Grid, Wide } from '../../ui/Table'

/** The pile against the sounds: which box makes which, alone or with others. */
export function Earns({ found }: { found: Choice }) {
  const { plan } = useChosen()
  const find = useLookup(plan)
  const first = found.sets[0]
  return (
    <Wide style={{ maxHeight: 'none' }}>
      <Cells aria-label="What each box earns">
        <thead>
          <tr>
            <th scope="col">Box</th>
            {found.sounds.map((s) => (
              <th key={s.sound} scope="col">
                <Tape $small style={{ background: tape(find('sounds', s.sound)?.tape) }} title={s.name}>
                  {s.name}
                </Tape>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">nothing on</th>
            {found.sounds.map((s) => (
              <td key={s.sound} data-alone={s.bare || undefined}>
                {s.bare ? 'makes it' : ''}
              </td>
            ))}
          </tr>
          {found.pile.map((b) => (
            <tr key={b.gear} data-taken={first?.boxes.includes(b.gear) || undefined}>
              <th scope="row" title={b.name}>
                {b.name}
                {b.kind && <small> not owned</small>}
                {b.always && <small> always on</small>}
              </th>
              {found.sounds.map((s) => (
                <td key={s.sound} data-alone={s.alone.includes(b.gear) || undefined}>
                  {s.alone.includes(b.gear) ? 'alone' : s.helps.includes(b.gear) ? 'with others' : ''}
                </td>
              ))}
            </tr>
          ))}
          {found.sounds.some((s) => s.why_not) && (
            <tr>
              <th scope="row">not made</th>
              {found.sounds.map((s) => (
                <td key={s.sound}>{s.why_not ?? ''}</td>
              ))}
            </tr>
          )}
        </tbody>
      </Cells>
    </Wide>
  )
}

const Cells = styled(Grid)`
  th, td { white-space: nowrap; max-width: 170px; overflow: hidden; text-overflow: ellipsis; }
  td { color: var(--muted); }
  td[data-alone] { color: var(--text); font-weight: 600; }
  th[scope='row'] { padding-left: 8px; }
  tr[data-taken] th { box-shadow: inset 4px 0 var(--tape-yellow); background: var(--sunk); }
  small { font: 12px var(--face-body); color: var(--muted); }
  tr:last-child td { white-space: normal; }
`
