import { useState } from 'react'
import { FileTrigger } from 'react-aria-components/FileTrigger'
import { Problem } from '../../api/client'
import { bring, type TakenIn } from '../../api/recordings'
import { Button } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { Figure, Muted, Row } from '../../ui/layout'

/** The player's own dry recording, played through the rig in the place of the test phrase. */
export function OwnRecording({
  dry,
  use,
}: {
  dry: string | undefined
  use: (id: string | undefined) => void
}) {
  const [taken, take] = useState<TakenIn | undefined>()
  const [refused, refuse] = useState<string | undefined>()
  const pick = async (files: FileList | null) => {
    const file = files?.[0]
    if (!file) return
    refuse(undefined)
    try {
      const t = await bring(file)
      take(t)
      use(t.id)
    } catch (e) {
      refuse(e instanceof Problem ? e.message : 'It could not be read.')
    }
  }
  return (
    <Fold title="Play a recording of your own">
      <Row>
        <FileTrigger acceptedFileTypes={['audio/wav', '.wav']} onSelect={(f) => void pick(f)}>
          <Button>Choose a dry WAV</Button>
        </FileTrigger>
        {dry && (
          <Button
            onPress={() => {
              use(undefined)
              take(undefined)
            }}
          >
            Back to the test phrase
          </Button>
        )}
        {dry && taken && (
          <Muted as="span">
            <Figure>{taken.meter.seconds.toFixed(1)} s</Figure>,{' '}
            <Figure>
              {taken.meter.lufs === undefined ? 'too soft to meter' : `${taken.meter.lufs.toFixed(1)} LUFS`}
            </Figure>
            , brought to 0.10 V.
          </Muted>
        )}
      </Row>
      {refused && <Muted role="alert">{refused}</Muted>}
      <Muted>
        One guitar straight into a recorder, no effects. It is kept while the program runs, and is not saved.
      </Muted>
    </Fold>
  )
}
