import { useState } from 'react'
import styled from 'styled-components'
import { usePlayedOtherwise } from '../../api/plan'
import type { DialRecipe, DialStarts, DialTravels } from '../../api/types'
import { useWork } from '../../api/work'
import { useEdit } from '../../edits/useEdit'
import { usePlace } from '../../state/place'
import { tape } from '../../theme/tokens'
import { clockOf } from '../../ui/clock'
import { Button } from '../../ui/controls'
import { signed } from '../../ui/figures'
import { Figure, Heading, Muted, Panel, Row, Stack, Tape } from '../../ui/layout'
import { Progress, Waiting } from '../../ui/Progress'
import { TakeButton } from '../../ui/TakeButton'
import { ChannelsLevel } from './ChannelsLevel'
import { FoundGood } from './FoundGood'
import { KnobTravel } from './KnobTravel'
import { StepHeard } from './StepHeard'
import { ToneCurves } from './ToneCurves'

/** What each knob of the sound under the cursor does, steps to dial it in, where to start, and what was found good. */
export function DialIn() {
  const { rig, destination, setList, section, sound, recipe } = usePlace()
  const otherwise = usePlayedOtherwise(rig?.id, setList?.id, destination?.id)
  if (!rig || !sound || !recipe) {
    return (
      <Muted>
        Dial in shows what each knob of a sound does where it stands, steps that a hand can follow, and keeps
        what was found good. It needs a section under the cursor whose sound the rig has a recipe for.
      </Muted>
    )
  }
  const query = { rig: rig.id, destination: destination?.id }
  if (setList && !otherwise.data && !otherwise.error) return null
  // A song that is played with another box, or by another recipe, is dialled in as it is played.
  const way = otherwise.data?.ways.find((w) => w.songs.includes(section?.song_id ?? ''))
  const song = way && section?.song_id
  const asked = { ...query, sound: sound.id, recipe: recipe.id, song }
  const of = `${rig.id} ${destination?.id} ${recipe.id} ${song}`
  return (
    <Stack $gap={16}>
      <Muted>
        Modelled on kinds of circuit; your ears decide. Start low: loudness harms hearing.
        {way && ` As ${section?.song} is played: ${way.words}.`}
      </Muted>
      <Travels query={asked} name={sound.name} colour={tape(sound.tape)} />
      <Steps key={`steps ${of}`} query={asked} name={sound.name} />
      <Starts key={`starts ${of}`} query={query} />
      <ChannelsLevel key={`channels ${of}`} query={query} />
      <FoundGood rig={rig} />
    </Stack>
  )
}

function Travels({ query, name, colour }: { query: object; name: string; colour: string }) {
  const work = useWork<DialTravels>('/api/knobs', query)
  const found = work.latest
  return (
    <Panel aria-label="What each knob does" role="region">
      <Row $gap={10}>
        <Heading>What each knob does in</Heading>
        <Tape $small style={{ background: colour }} title={name}>
          {name}
        </Tape>
      </Row>
      <Legend aria-hidden="true">
        <li>
          <Line dash={undefined} /> louder
        </li>
        <li>
          <Line dash="6 3" /> dirt
        </li>
        <li>
          <Line dash="2 3" /> brighter
        </li>
        <li>the upright line is where it stands, the pale band where it is steepest</li>
      </Legend>
      {work.busy && (
        <Waiting style={found ? undefined : { minHeight: 480 }}>
          <Progress label="Turning every knob" share={work.progress} cancel={work.cancel} />
        </Waiting>
      )}
      {work.refused && <Muted role="alert">{work.refused}</Muted>}
      {work.cancelled && <Muted>Cancelled. It starts again when the sound or the rig changes.</Muted>}
      {found && (
        <Knobs aria-label={`Knobs of ${found.name}, the one that does most first`}>
          {found.knobs.map((k) => (
            <li key={k.key}>
              <KnobTravel knob={k} />
            </li>
          ))}
        </Knobs>
      )}
    </Panel>
  )
}

function Line({ dash }: { dash: string | undefined }) {
  return (
    <svg width="26" height="8" focusable="false" aria-hidden="true">
      <line x1="0" x2="26" y1="4" y2="4" stroke="currentColor" strokeWidth="2" strokeDasharray={dash} />
    </svg>
  )
}

function Steps({ query, name }: { query: object; name: string }) {
  const [asked, ask] = useState(false)
  const work = useWork<DialRecipe>('/api/dial/steps', asked ? query : undefined)
  const [heard, hear] = useState<Record<string, string>>({})
  const { rig } = usePlace()
  const edit = useEdit()
  return (
    <Panel aria-label="Step by step" role="region">
      <Row $gap={12}>
        <Heading>Step by step</Heading>
        {!asked && (
          <Button $strong onPress={() => ask(true)}>
            Dial {name} in
          </Button>
        )}
      </Row>
      {work.busy && <Progress label="Playing each step" share={work.progress} cancel={work.cancel} />}
      {work.refused && <Muted role="alert">{work.refused}</Muted>}
      {work.latest && (
        <List aria-label={`Steps for ${name}`}>
          {work.latest.steps.map((s, i, all) => (
            <li key={s.box ?? ''}>
              {s.words}
              <PlacesOf knobs={s.knobs} also={s.also} />
              {s.matched && s.rig && rig && (
                <TakeButton
                  fresh={work.fresh}
                  onPress={() =>
                    void edit.change(
                      'rigs',
                      rig.id,
                      `${s.matched?.name} to ${s.matched?.at}`,
                      (now) => s.rig ?? now,
                      work.from,
                    )
                  }
                >
                  Set {s.matched.name} to {s.matched.at}
                </TakeButton>
              )}
              <StepHeard
                name={`step ${i + 1}`}
                dirt={s.dirt_pct}
                louder={s.louder_lu}
                before={i > 0 ? heard[all[i - 1]?.box ?? ''] : undefined}
                recording={heard[s.box ?? '']}
                keep={(id) => hear((h) => ({ ...h, [s.box ?? '']: id }))}
              />
            </li>
          ))}
        </List>
      )}
      {work.latest?.checks.map((c) => (
        <Muted key={c.words}>
          {c.met ? 'In its target' : 'Out of its target'}: {c.words}
        </Muted>
      ))}
    </Panel>
  )
}

/** Where knobs go: by number, and as a clock hand points. */
function PlacesOf({
  knobs,
  input,
  also = [],
}: {
  knobs: { key: string; name: string; at: number; low: number; high: number }[]
  input?: string
  also?: string[]
}) {
  return (
    <Places>
      {knobs.map((k) => (
        <span key={k.key}>
          {k.name} <Figure>{k.at}</Figure>, {clockOf(k.at, k.low, k.high)}
        </span>
      ))}
      {input && <span>{input} input</span>}
      {also.map((words) => (
        <span key={words}>{words}</span>
      ))}
    </Places>
  )
}

function Starts({ query }: { query: object }) {
  const [asked, ask] = useState(false)
  const work = useWork<DialStarts>('/api/dial/starts', asked ? query : undefined)
  const { rig } = usePlace()
  const edit = useEdit()
  const found = work.latest
  return (
    <Panel aria-label="Where to start" role="region">
      <Row $gap={12}>
        <Heading>Where to start on the amp</Heading>
        {!asked && <Button onPress={() => ask(true)}>Look for start points</Button>}
      </Row>
      {work.busy && (
        <Progress label="Trying gain against master" share={work.progress} cancel={work.cancel} />
      )}
      {work.refused && <Muted role="alert">{work.refused}</Muted>}
      {found && (
        <Muted>
          {found.name} with {found.guitar}, every pedal off. {found.words}
        </Muted>
      )}
      {found && rig && (
        <List as="ul" aria-label={`Start points on ${found.name}`}>
          {found.ways.map((w) => (
            <li key={w.name}>
              <b>{w.name}</b>: <Figure>{Math.round(w.dirt_pct)} %</Figure> dirt,{' '}
              <Figure>{signed(w.over_lu)} LU</Figure> over how it stands.
              <PlacesOf knobs={w.knobs ?? []} input={w.input} />
              <TakeButton
                fresh={work.fresh}
                aria-label={`Start ${w.name.toLowerCase()}`}
                onPress={() =>
                  void edit.change('rigs', rig.id, `${w.name} on ${found.name}`, () => w.rig, work.from)
                }
              >
                Start there
              </TakeButton>
            </li>
          ))}
        </List>
      )}
      {found?.tone && <ToneCurves tone={found.tone} />}
    </Panel>
  )
}

const Knobs = styled.ul`
  margin: 0; padding: 0; list-style: none; display: grid; grid-template-columns: repeat(auto-fill, minmax(230px, 1fr)); gap: 12px;
`
const Legend = styled.ul`
  margin: 0; padding: 0; list-style: none; display: flex; flex-wrap: wrap; gap: 4px 18px; font-size: 13px; color: var(--muted);
`
const List = styled.ol`margin: 0; padding: 0 0 0 22px; display: grid; gap: 10px; list-style: decimal;`
const Places = styled.div`display: flex; flex-wrap: wrap; gap: 2px 16px; font-size: 13px; color: var(--muted);`
