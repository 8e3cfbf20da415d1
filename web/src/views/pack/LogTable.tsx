import { Link } from 'react-router'
import styled from 'styled-components'
import type { JournalLine } from '../../api/types'
import { narrow } from '../../theme/tokens'
import { Figure } from '../../ui/layout'
import { Grid } from '../../ui/Table'
import { cameOf } from './names'

const words = {
  before: 'note before',
  fault: 'fault',
  change: 'change',
  battery: 'battery',
  after: 'note after',
} as const

/** Lines of the log, each with the show it is of. */
export function LogTable({ lines, label }: { lines: JournalLine[]; label: string }) {
  return (
    <Lines aria-label={label}>
      <thead>
        <tr>
          <th scope="col">Date</th>
          <th scope="col">Show</th>
          <th scope="col">What</th>
          <th scope="col">Where</th>
          <th scope="col">Written down</th>
          <th scope="col">And then</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((l) => (
          <tr key={`${l.show} ${l.kind} ${l.index}`}>
            <Whole>
              <Figure>{l.date ?? ''}</Figure>
            </Whole>
            <td>
              <Named to={`/pack/shows/${l.show}`}>{l.show_name}</Named>
            </td>
            <Whole>{words[l.kind]}</Whole>
            <td>{l.where ?? ''}</td>
            <td>{l.text}</td>
            <td>{cameOf(l)}</td>
          </tr>
        ))}
      </tbody>
    </Lines>
  )
}

// On a narrow screen a line of the log is read from top to bottom.
const Lines = styled(Grid)`
  ${narrow} {
    display: block;
    thead { display: none; }
    tbody, tr { display: block; }
    tr { padding: 8px 0; border-bottom: 1px solid var(--line); }
    td { display: inline; padding: 0 10px 0 0; border: 0; }
  }
`
const Whole = styled.td`white-space: nowrap;`
const Named = styled(Link)`color: var(--text);`
