import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { FileTrigger } from 'react-aria-components/FileTrigger'
import { answer, client, Problem } from '../../api/client'
import { bring } from '../../api/recordings'
import { Button } from '../../ui/controls'
import { Muted, Row } from '../../ui/layout'

const saidOf = (e: unknown) => (e instanceof Problem ? e.message : 'It could not be read.')

/** A step that is checked by a recording of it: its dirt, and how much louder than the recording before it. */
export function StepHeard(p: {
  name: string
  dirt: number
  louder: number
  before: string | undefined
  recording: string | undefined
  keep: (id: string) => void
}) {
  const [busy, work] = useState(false)
  const [refused, refuse] = useState('')
  const look = useQuery({
    queryKey: ['step-heard', p.recording, p.before, p.dirt, p.louder],
    enabled: Boolean(p.recording),
    retry: false,
    queryFn: () =>
      answer(
        client.GET('/api/recordings/step', {
          params: {
            query: { after: p.recording ?? '', before: p.before, dirt: p.dirt, louder: p.louder },
          },
        }),
      ),
  })
  const pick = async (files: FileList | null) => {
    const file = files?.[0]
    if (!file) return
    refuse('')
    work(true)
    try {
      p.keep((await bring(file)).id)
    } catch (e) {
      refuse(saidOf(e))
    }
    work(false)
  }
  return (
    <Row style={{ alignItems: 'center' }}>
      <FileTrigger acceptedFileTypes={['audio/wav', '.wav']} onSelect={(f) => void pick(f)}>
        <Button aria-label={`Check ${p.name} by a recording`} isDisabled={busy || look.isFetching}>
          {p.recording ? 'Check again' : 'Check by a recording'}
        </Button>
      </FileTrigger>
      {refused || look.isError ? (
        <Muted role="alert">{refused || saidOf(look.error)}</Muted>
      ) : (
        <Muted role="status">{look.data?.words}</Muted>
      )}
    </Row>
  )
}
