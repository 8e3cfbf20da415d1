import styled from 'styled-components'
import type { PlayResult, PlayScore, PlaySong } from '../../api/types'
import { Button } from '../../ui/controls'
import { Figure, Heading, Muted, Row } from '../../ui/layout'
import { Grid, Wide } from '../../ui/Table'

/** How a change came out, in words. */
export function outcome(s: PlayScore): string {
  switch (s.outcome) {
    case 'made':
      return s.recovered ? 'Made, after a wrong press' : 'Made'
    case 'early':
      return `Left ${s.by_s.toFixed(2)} s too early`
    case 'late':
      return `Late by ${s.by_s.toFixed(2)} s`
    default:
      return `Missed: ${s.pending.join(', ')}`
  }
}

/** How the changes of the song went so far; at its end all of them, to be kept. */
export function Scores({
  song,
  result,
  over,
  keeping,
  kept,
  onAgain,
  next,
  onNext,
  onKeep,
}: {
  song: PlaySong
  result: PlayResult | undefined
  over: boolean
  keeping: boolean
  kept: boolean
  onAgain: () => void
  next: string | undefined
  onNext: () => void
  onKeep: (() => void) | undefined
}) {
  const last = result?.scores[result.scores.length - 1]
  if (!over)
    return (
      <p role="status" aria-label="Last change">
        {last ? (
          <>
            <Mark $good={last.outcome === 'made'}>{last.label}</Mark> {outcome(last)}
          </>
        ) : (
          '\u00a0'
        )}
      </p>
    )
  return (
    <section aria-label="Score">
      <Row $gap={14} style={{ alignItems: 'center' }}>
        <Heading>
          {song.title}: {result?.made ?? 0} of {result?.total ?? 0} made
        </Heading>
        {onKeep && (result?.total ?? 0) > 0 && (
          <Button $strong onPress={onKeep} isPending={keeping || kept}>
            {kept ? 'Kept' : 'Keep it'}
          </Button>
        )}
        <Button onPress={onAgain}>Again</Button>
        {next && <Button onPress={onNext}>On to {next}</Button>}
      </Row>
      {(result?.total ?? 0) === 0 && <Muted>No change has been played yet.</Muted>}
      {(result?.total ?? 0) > 0 && (
        <Wide>
          <Grid aria-label="Changes">
            <thead>
              <tr>
                <th scope="col">Section</th>
                <th scope="col">From</th>
                <th scope="col">To</th>
                <th scope="col">How it went</th>
                <th scope="col">Wrong presses</th>
              </tr>
            </thead>
            <tbody>
              {(result?.scores ?? []).map((s) => (
                <tr key={s.position}>
                  <th scope="row">{s.label}</th>
                  <td>{s.from}</td>
                  <td>{s.to}</td>
                  <td>
                    <Mark $good={s.outcome === 'made'}>{outcome(s)}</Mark>
                  </td>
                  <td>
                    <Figure>{s.wrong}</Figure>
                  </td>
                </tr>
              ))}
            </tbody>
          </Grid>
        </Wide>
      )}
    </section>
  )
}

const Mark = styled.span<{
  $good: boolean
}>`font-weight: 600; color: ${(p) => (p.$good ? 'var(--text)' : 'var(--red)')};`
