import { Link } from 'react-router'
import styled from 'styled-components'
import type { RoomReport, RoomScene } from '../../api/types'
import { usePlace } from '../../state/place'
import { tape } from '../../theme/tokens'
import { bandNames, signed } from '../../ui/figures'
import { ListenButton } from '../../ui/ListenButton'
import { Figure, Heading, Muted, Panel, Row, Stack, Tape } from '../../ui/layout'
import { Progress, Waiting } from '../../ui/Progress'
import { Grid, Wide } from '../../ui/Table'
import { Halls } from './Halls'
import { HeardCurve } from './HeardCurve'
import { Lanes } from './Lanes'
import { useRoom } from './useRoom'

/** What is heard of each sound among the band, and what a sound covers. */
export function Room() {
  const { plan, position, section } = usePlace()
  const { query, work } = useRoom()
  if (!query || work.refused) {
    return (
      <Stack>
        <Muted>
          Room says how much of each sound is heard among the others, which bands of the voice or the keys it
          covers, and whether a lead comes through. It needs a set list, a rig with recipes, and who plays
          beside the guitar.
        </Muted>
        {work.refused && <p role="alert">{work.refused}</p>}
        <div>
          <Link to="/hear/band">Say who plays</Link>
        </div>
      </Stack>
    )
  }
  const report = work.latest
  const at = report?.sections.find((s) => s.position === position)
  const scene = at && report?.scenes[at.scene]
  return (
    <Stack $gap={16}>
      <Muted>
        Among {report?.name ?? 'the band'}, for a listener in front. A model: partial loudness after Moore,
        Glasberg and Baer (1997). Loud stages harm hearing: wear protection, at the side of the stage too.
      </Muted>
      {work.cancelled && <Muted>Cancelled. It starts again when the rig or the band changes.</Muted>}
      {work.busy && (
        <Waiting style={report ? undefined : { minHeight: 560 }}>
          <Progress label="Listening among the band" share={work.progress} cancel={work.cancel} />
        </Waiting>
      )}
      {report && !scene && section && (
        <Muted>
          The rig has no recipe for {section.section} of {section.song}.
        </Muted>
      )}
      {report && scene && at && (
        <Panel aria-label="Heard here" role="region">
          <Heading>
            {at.title}, {at.label}
          </Heading>
          <p>
            <Tape $small style={{ background: tapeOf(plan, scene.sound) }} title={scene.name}>
              {scene.name}
            </Tape>{' '}
            <Figure>{Math.round(scene.guitar.heard_pct)} %</Figure> of it is heard where it is strongest
            {scene.guitar.under && (
              <>
                , <Figure>{Math.abs(scene.guitar.over_phon).toFixed(0)} phon</Figure>{' '}
                {scene.guitar.over_phon >= 0 ? 'over' : 'under'} {scene.guitar.under}, the loudest of the
                others
              </>
            )}
            .
            {scene.rests.length > 0 &&
              ` ${scene.rests.join(', ')} ${scene.rests.length > 1 ? 'rest' : 'rests'}.`}
          </p>
          <div>
            <ListenButton title={scene.name} query={{ sound: scene.sound, recipe: scene.recipe }} />
          </div>
          <HeardCurve
            hz={report.hz ?? []}
            curve={scene.curve}
            name={scene.name}
            colour={tapeOf(plan, scene.sound)}
          />
          <PartsHere scene={scene} />
          {at && <Lanes scene={scene} song={at.song} title={at.title} />}
        </Panel>
      )}
      {report && <Sounds report={report} />}
      {report && <Halls />}
      {report && (
        <Panel aria-label="Low cut" role="region">
          <Heading>Low cut</Heading>
          <ul style={{ margin: 0, paddingLeft: 18 }}>
            {report.cuts.map((c) => (
              <li key={c.lane ?? ''}>
                {c.name}: {c.words}
              </li>
            ))}
          </ul>
        </Panel>
      )}
      {report && <Muted>{report.assumed.join(' ')}</Muted>}
    </Stack>
  )
}

type Plan = ReturnType<typeof usePlace>['plan']

const tapeOf = (plan: Plan, sound: string) => tape(plan.sounds.find((s) => s.value.id === sound)?.value.tape)

/** What the guitar takes of each part in the section of the cursor. */
function PartsHere({ scene }: { scene: RoomScene }) {
  if (scene.parts.length === 0) return <Muted>Nobody else plays here.</Muted>
  return (
    <Wide style={{ maxHeight: 'none' }}>
      <Grid aria-label="Parts here">
        <thead>
          <tr>
            <th scope="col">Part</th>
            <th scope="col">Heard</th>
            <th scope="col">The guitar takes</th>
            {bandNames.map((b) => (
              <th key={b} scope="col">
                at {b}
              </th>
            ))}
            <th scope="col">What rings takes</th>
          </tr>
        </thead>
        <tbody>
          {scene.parts.map((p) => (
            <tr key={p.part}>
              <th scope="row">{p.name}</th>
              <td>
                <Figure>{Math.round(p.heard_pct)} %</Figure>
              </td>
              <td>
                <Share value={p.loses_pct} />
              </td>
              {(p.loses_bands_pct ?? []).map((x, i) => (
                <td key={bandNames[i]}>
                  <Share value={x} />
                </td>
              ))}
              <td>
                <Figure>{Math.round(p.rings_pct)} %</Figure>
              </td>
            </tr>
          ))}
        </tbody>
      </Grid>
    </Wide>
  )
}

/** A share with a bar as long as it. */
function Share({ value }: { value: number }) {
  const whole = Math.max(0, Math.round(value))
  return (
    <Bar>
      <i style={{ width: `${Math.min(whole, 100) * 0.5}px` }} />
      <Figure>{whole} %</Figure>
    </Bar>
  )
}

/** Every sound of the set among those who play with it. */
function Sounds({ report }: { report: RoomReport }) {
  const { plan, go, position } = usePlace()
  const here = report.sections.find((s) => s.position === position)?.scene
  return (
    <Panel aria-label="Sounds among the band" role="region">
      <Heading>Sounds among the band</Heading>
      <Wide style={{ maxHeight: 'none' }}>
        <Grid aria-label="Sounds among the band">
          <thead>
            <tr>
              <th scope="col">Sound</th>
              <th scope="col">Sections</th>
              <th scope="col">Heard</th>
              <th scope="col">Against the loudest other</th>
              <th scope="col">Takes most of</th>
              <th scope="col">Repeats heard</th>
            </tr>
          </thead>
          <tbody>
            {report.scenes.map((s, i) => {
              const played = report.sections.filter((x) => x.scene === i)
              const most = s.parts.reduce<(typeof s.parts)[number] | undefined>(
                (best, p) => (best && best.loses_pct >= p.loses_pct ? best : p),
                undefined,
              )
              const first = played[0]
              return (
                <tr key={`${s.sound} ${played[0]?.position}`} aria-current={i === here ? 'true' : undefined}>
                  <th scope="row">
                    <Tape $small style={{ background: tapeOf(plan, s.sound) }} title={s.name}>
                      {s.name}
                    </Tape>{' '}
                    {[s.boxes?.length ? `with ${s.boxes.join(', ')}` : '', s.tuned]
                      .filter(Boolean)
                      .join(', ')}
                  </th>
                  <td>
                    {first ? (
                      <Plain
                        type="button"
                        aria-label={`Show ${s.name} in ${first.title}, ${first.label}`}
                        onClick={() => go(first.position)}
                      >
                        {played.length}, first in {first.title}
                      </Plain>
                    ) : null}
                  </td>
                  <td>
                    <Share value={s.guitar.heard_pct} />
                  </td>
                  <td>
                    {s.guitar.under ? (
                      <>
                        <Figure>{signed(s.guitar.over_phon, 0)} phon</Figure> {s.guitar.under}
                      </>
                    ) : (
                      'alone'
                    )}
                  </td>
                  <td>{most ? `${most.name}, ${Math.round(most.loses_pct)} %` : ''}</td>
                  <td>
                    {s.repeats
                      .map((r) => `${r.name} at ${Math.round(r.ms)} ms, ${r.heard} of ${r.of}`)
                      .join(', ')}
                  </td>
                </tr>
              )
            })}
          </tbody>
        </Grid>
      </Wide>
      <Row>
        <Muted>
          Heard is the share of a sound that is left among the others, where it is strongest. Among nine
          players some 10 to 20 % is usual.
        </Muted>
      </Row>
    </Panel>
  )
}

const Bar = styled.span`
  display: inline-flex; gap: 6px; align-items: center; white-space: nowrap;
  i { display: block; height: 10px; background: var(--lit); }
`
const Plain = styled.button`
  min-height: 24px; padding: 0; border: 0; background: none; color: inherit; font: inherit; text-align: left; text-decoration: underline; cursor: pointer;
`
