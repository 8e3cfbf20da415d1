import { ToggleButton } from 'react-aria-components/ToggleButton'
import styled from 'styled-components'
import type { ElectricReport } from '../../api/types'
import { Button } from '../../ui/controls'
import { Figure, Row } from '../../ui/layout'
import { TakeButton } from '../../ui/TakeButton'
import { usePutBuffer } from './usePutBuffer'

/** The chain with a place between every two boxes, where a buffer can be tried before it is put in. */
export function BufferChain({
  report,
  fresh,
  from,
  tried,
  onTry,
}: {
  report: ElectricReport
  fresh: boolean
  from: string | undefined
  tried: string | undefined
  onTry: (before: string | undefined) => void
}) {
  const putBuffer = usePutBuffer()
  const place = report.places.find((p) => p.before === tried)
  if (report.places.length === 0) return null
  return (
    <div>
      <Line aria-label="Places a buffer can be tried">
        <li>guitar</li>
        {report.places.map((p) => (
          <li key={p.before}>
            <Place
              aria-label={`Try a buffer before ${p.name}`}
              isSelected={p.before === tried}
              onChange={(on) => onTry(on ? p.before : undefined)}
              data-best={p.before === report.buffer?.before || undefined}
            >
              <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true" focusable="false">
                <path d="M2 2l10 5-10 5z" fill="currentColor" />
              </svg>
            </Place>
            {p.name}
          </li>
        ))}
      </Line>
      <p role="status">
        {place ? (
          <>
            A buffer before {place.name}: the worst sound loses{' '}
            <Figure>{place.worst_db.toFixed(1)} dB</Figure> instead of{' '}
            <Figure>{place.worst_was_db.toFixed(1)}</Figure>, the biggest jump is{' '}
            <Figure>{place.jump_db.toFixed(1)} dB</Figure> instead of{' '}
            <Figure>{place.jump_was_db.toFixed(1)}</Figure>.
            {place.before_fuzz &&
              ` It would come between ${place.before_fuzz} and the pickup, which a fuzz wants to see directly.`}
          </>
        ) : report.buffer ? (
          <>
            Best place for one buffer: before {report.buffer.name}. The worst sound would lose{' '}
            <Figure>{report.buffer.worst_db.toFixed(1)} dB</Figure> instead of{' '}
            <Figure>{report.buffer.worst_was_db.toFixed(1)}</Figure>.
          </>
        ) : (
          'No buffer would gain half a decibel anywhere. Try one at a mark to see.'
        )}
      </p>
      {(place ?? report.buffer) && (
        <Row>
          {!place && report.buffer && (
            <Button onPress={() => onTry(report.buffer?.before)}>Try it there</Button>
          )}
          {place && (
            <>
              <TakeButton
                $strong
                fresh={fresh}
                onPress={() => {
                  onTry(undefined)
                  putBuffer(place, from)
                }}
              >
                {place.words}
              </TakeButton>
              <Button onPress={() => onTry(undefined)}>Take it out again</Button>
            </>
          )}
        </Row>
      )}
    </div>
  )
}

const Line = styled.ul`
  display: flex; flex-wrap: wrap; gap: 6px 0; align-items: center; font: 600 14px/1.2 var(--face-label); margin-bottom: 8px;
  li { display: flex; align-items: center; gap: 6px; padding-right: 6px; }
`
const Place = styled(ToggleButton)`
  width: 30px; height: 30px; display: grid; place-items: center; border: 1px dashed var(--edge); background: none; color: var(--muted); cursor: pointer;
  &[data-hovered] { color: var(--text); border-color: var(--text); }
  &[data-best] { border: 2px solid var(--text); color: var(--text); }
  &[data-selected] { background: var(--lit); color: var(--onLit); border: 1px solid var(--lit); }
  &[data-focus-visible] { outline: 2px solid var(--focus); outline-offset: 2px; }
`
