import type { PlaySong, Rehearsals } from '../../api/types'
import { Button } from '../../ui/controls'
import { Figure, Muted } from '../../ui/layout'
import { Grid, Wide } from '../../ui/Table'
import { useRehearsals } from './usePlayed'

type Progress = Rehearsals['progress'][number]

/** Every change over the days it was rehearsed, and what is worth a drill. */
export function ProgressOver({
  song,
  onDrill,
  onSong,
}: {
  song: PlaySong
  onDrill: (position: number) => void
  onSong: (position: number) => void
}) {
  const { data } = useRehearsals()
  if (!data) return null
  if (data.progress.length === 0) return <Muted>Nothing was kept yet: play a song and keep it.</Muted>
  return (
    <>
      {data.drill.length > 0 && (
        <ul aria-label="Drill">
          {data.drill.map((p) => {
            const mine = song.sections.some((s) => s.position === p.position)
            return (
              <li key={p.position}>
                {p.title}, {p.label}: {p.from} to {p.to}, made {p.made} of {p.tries}{' '}
                <Button $plain onPress={() => (mine ? onDrill : onSong)(p.position)}>
                  {mine ? 'Practise it' : `Go to ${p.title}`}
                </Button>
              </li>
            )
          })}
        </ul>
      )}
      <Wide>
        <Grid aria-label="Progress">
          <thead>
            <tr>
              <th scope="col">Change</th>
              <th scope="col">Made</th>
              <th scope="col">By day</th>
            </tr>
          </thead>
          <tbody>
            {data.progress.map((p) => (
              <tr key={p.position}>
                <th scope="row">
                  {p.title}, {p.label}
                </th>
                <td>
                  <Figure>
                    {p.made} of {p.tries}
                  </Figure>
                </td>
                <td>
                  <Plot progress={p} />
                </td>
              </tr>
            ))}
          </tbody>
        </Grid>
      </Wide>
    </>
  )
}

/** The share that was made, a bar a day. */
function Plot({ progress }: { progress: Progress }) {
  const days = progress.days.slice(-20)
  return (
    <svg
      width={days.length * 10 + 2}
      height={26}
      role="img"
      aria-label={days.map((d) => `${d.day}: ${d.made} of ${d.tries}`).join(', ')}
    >
      {days.map((d, i) => {
        const h = Math.max(2, (d.made / Math.max(1, d.tries)) * 22)
        return <rect key={d.day} x={1 + i * 10} y={24 - h} width={7} height={h} fill="var(--text)" />
      })}
      <line x1={0} x2={days.length * 10 + 2} y1={25} y2={25} stroke="var(--edge)" />
    </svg>
  )
}
