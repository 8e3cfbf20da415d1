import { useState } from 'react'
import { FileTrigger } from 'react-aria-components/FileTrigger'
import { answer, client, Problem } from '../../api/client'
import { bring } from '../../api/recordings'
import type { Part } from '../../api/types'
import { Button } from '../../ui/controls'
import { Muted, Row } from '../../ui/layout'

/** The spectrum of a part: usual for its kind, or measured from a recording of it alone. */
export function PartRecording({
  part,
  keep,
}: {
  part: Part
  keep: (levels: number[] | undefined) => unknown
}) {
  const [busy, work] = useState(false)
  const [refused, refuse] = useState<string | undefined>()
  const pick = async (files: FileList | null) => {
    const file = files?.[0]
    if (!file) return
    refuse(undefined)
    work(true)
    try {
      const taken = await bring(file)
      const got = await answer(
        client.GET('/api/parts/measured', { params: { query: { recording: taken.id } } }),
      )
      await keep(got.bands_db ?? undefined)
    } catch (e) {
      refuse(e instanceof Problem ? e.message : 'It could not be read.')
    }
    work(false)
  }
  const measured = (part.bands_db?.length ?? 0) > 0
  return (
    <>
      <Row>
        <FileTrigger acceptedFileTypes={['audio/wav', '.wav']} onSelect={(f) => void pick(f)}>
          <Button aria-label={`Measure ${part.name} from a recording`} isDisabled={busy}>
            {measured ? 'Measure again' : 'Measure'}
          </Button>
        </FileTrigger>
        {measured && (
          <Button aria-label={`Use the usual spectrum for ${part.name}`} onPress={() => keep(undefined)}>
            Use usual
          </Button>
        )}
      </Row>
      {refused && <Muted role="alert">{refused}</Muted>}
    </>
  )
}
