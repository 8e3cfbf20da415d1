import type { Solution } from '../../api/types'
import { useWork } from '../../api/work'
import { Figure, Muted } from '../../ui/layout'
import { Grid } from '../../ui/Table'
import { type School, schools } from './schools'

/** The schools of preset layout side by side, each worked out for this rig and this night. */
export function SchoolsCompared({ query }: { query: object }) {
  return (
    <Grid aria-label="Schools compared">
      <thead>
        <tr>
          <th scope="col">School</th>
          <th scope="col">Presses at changes</th>
          <th scope="col">Bank steps</th>
          <th scope="col">Own switches</th>
          <th scope="col">Reach</th>
          <th scope="col">Tight</th>
          <th scope="col">Footwork</th>
        </tr>
      </thead>
      <tbody>
        {schools.map((s) => (
          <Line key={s.id} school={s.id} name={s.name} query={query} />
        ))}
      </tbody>
    </Grid>
  )
}

function Line({ school, name, query }: { school: School; name: string; query: object }) {
  const work = useWork<Solution>('/api/switch', { ...query, school })
  const found = work.result
  if (!found) {
    return (
      <tr>
        <th scope="row">{name}</th>
        <td colSpan={6}>
          <Muted as="span">{work.refused ?? `Working it out, ${Math.round(work.progress * 100)} %`}</Muted>
        </td>
      </tr>
    )
  }
  return (
    <tr>
      <th scope="row">{name}</th>
      <td>
        <Figure>{found.reach.presses}</Figure> and <Figure>{found.reach.leisure}</Figure> at leisure
        {found.proven ? ', proven the least' : ''}
      </td>
      <td>
        <Figure>{found.bank_steps}</Figure>
      </td>
      <td>
        <Figure>{found.own_presses}</Figure>
      </td>
      <td>
        <Figure>
          {found.reach.reached}/{found.reach.total}
        </Figure>
      </td>
      <td>
        <Figure>{found.reach.tight}</Figure>
      </td>
      <td>
        <Figure>{found.reach.footwork_s.toFixed(1)} s</Figure>
      </td>
    </tr>
  )
}
