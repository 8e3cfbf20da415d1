import type { ReactNode } from 'react'
import type { Rig } from '../api/types'
import { Button } from '../ui/controls'
import { Row } from '../ui/layout'
import { Card } from './Card'
import { useKeep } from './useKeep'

interface Said {
  id: string
  title: string
  words: string
}

/** Findings of a title and a sentence, with Keep, which settles one, and what can be done about it. */
export function PlainCards<F extends Said>({
  rig,
  findings,
  more,
}: {
  rig: Rig
  findings: F[]
  more?: (f: F) => ReactNode
}) {
  const { keep, reopen, dialog } = useKeep(rig)
  const kept = new Map((rig.settled ?? []).map((s) => [s.finding, s.reason]))
  return (
    <>
      {findings
        .filter((f) => !kept.has(f.id))
        .map((f) => (
          <Card key={f.id} id={f.id} title={f.title}>
            <p>{f.words}</p>
            {more?.(f)}
            <Row>
              <Button onPress={() => keep(f.title, [f.id])}>Keep</Button>
            </Row>
          </Card>
        ))}
      {findings
        .filter((f) => kept.has(f.id))
        .map((f) => (
          <Card key={f.id} id={f.id} settled title={f.title}>
            <p>Kept: {kept.get(f.id)}</p>
            <Row>
              <Button onPress={() => reopen(f.title, [f.id])}>Reopen</Button>
            </Row>
          </Card>
        ))}
      {dialog}
    </>
  )
}
