import { useNavigate } from 'react-router'
import styled from 'styled-components'
import { freshId } from '../../api/client'
import { useLookup } from '../../api/plan'
import type { Choice, ChosenSet } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { FloorPicture } from '../../floor/FloorPicture'
import { useChosen } from '../../state/place'
import { tape } from '../../theme/tokens'
import { signed } from '../../ui/figures'
import { Figure, Heading, Muted, Panel, Tape } from '../../ui/layout'
import { TakeButton } from '../../ui/TakeButton'
import { MadeMap } from './MadeMap'

/** The choices beside each other: what each makes, and what it costs to play, to carry and to feed. */
export function Choices({ found, fresh, from }: { found: Choice; fresh: boolean; from: string | undefined }) {
  return (
    <Columns aria-label="Choices">
      {found.sets.map((set, i) => (
        <li key={set.boxes.join(' ')}>
          <OneChoice set={set} found={found} place={i + 1} fresh={fresh} from={from} />
        </li>
      ))}
    </Columns>
  )
}

/** A rig under ids of its own, so that the same choice can be taken twice. */
const asNew = (set: ChosenSet): ChosenSet['rig'] => ({
  ...set.rig,
  id: freshId(),
  recipes: set.rig.recipes?.map((r) => ({ ...r, id: freshId() })),
})

function OneChoice({
  set,
  found,
  place,
  fresh,
  from,
}: {
  set: ChosenSet
  found: Choice
  place: number
  fresh: boolean
  from: string | undefined
}) {
  const { plan, pickRig } = useChosen()
  const edit = useEdit()
  const navigate = useNavigate()
  const find = useLookup(plan)
  const called = set.names.length > 0 ? set.names.join(', ') : 'No boxes'
  const boxOf = (id: string) => found.pile.find((b) => b.gear === id)?.name ?? id
  const soundOf = (id: string) => find('sounds', id)?.name ?? id
  const take = async () => {
    const rig = asNew(set)
    const outcome = await edit.amend(
      `Take ${called} as a rig`.slice(0, 200),
      [
        ...(set.new_gear ?? []).map((value) => ({ kind: 'gear' as const, value })),
        { kind: 'rigs' as const, value: rig },
      ],
      [],
      from,
    )
    if (outcome.problem) return
    pickRig(rig.id)
    navigate('/order')
  }
  return (
    <Panel role="region" aria-label={`Choice ${place}: ${called}`}>
      <Heading>{place === 1 ? 'Least to press' : `Choice ${place}`}</Heading>
      <Boxes>
        {set.boxes.map((id) => (
          <li key={id} title={boxOf(id)}>
            {boxOf(id)}
            {found.pile.find((b) => b.gear === id)?.kind && <small>not owned</small>}
          </li>
        ))}
        {set.boxes.length === 0 && <li>No boxes</li>}
      </Boxes>
      <TakeButton
        $strong={place === 1}
        fresh={fresh}
        aria-label={`Take ${called} as a rig`}
        onPress={() => void take()}
      >
        Take as a rig
      </TakeButton>
      <MadeMap set={set} />
      <Facts>
        {set.made.map((m) => (
          <div key={m.sound}>
            <dt>
              <Tape $small style={{ background: tape(find('sounds', m.sound)?.tape) }} title={m.name}>
                {m.name}
              </Tape>
            </dt>
            <dd title={m.words}>
              {m.words}
              <small>
                <Figure>
                  {signed(m.loudness_lu)} LU, {Math.round(m.dirt_pct)} % dirt
                </Figure>
                {!m.within &&
                  ` ${m.checks
                    .filter((c) => !c.met)
                    .map((c) => c.words)
                    .join(' ')}`}
              </small>
            </dd>
          </div>
        ))}
        {set.misses.length > 0 && (
          <div>
            <dt>Misses</dt>
            <dd>{set.misses.map(soundOf).join(', ')}</dd>
          </div>
        )}
        {set.adds.length > 0 && (
          <div>
            <dt>One more, roughly metered</dt>
            <dd>
              {set.adds.map((a) => (
                <span key={a.box}>
                  {boxOf(a.box)} may bring {a.sounds.map(soundOf).join(', ')}
                </span>
              ))}
            </dd>
          </div>
        )}
        <div>
          <dt>To play</dt>
          <dd>
            {set.presses} {set.presses === 1 ? 'press' : 'presses'}
            {set.by_hand > 0 && `, ${set.by_hand} ${set.by_hand === 1 ? 'change' : 'changes'} by hand`}
            {set.late > 0 && `, ${set.late} late`}
          </dd>
        </div>
        <div>
          <dt>To carry</dt>
          <dd>
            {set.weight_g > 0 ? `${(set.weight_g / 1000).toFixed(1)} kg` : 'weight not known'}
            {set.unknown_weight.length > 0 && set.weight_g > 0 && ' and what is not known'}
          </dd>
        </div>
        {set.fits !== undefined && (
          <div>
            <dt>Board</dt>
            <dd>
              {set.fits ? 'all fits' : `no place for ${(set.left_out ?? []).map(boxOf).join(', ') || 'all'}`}
            </dd>
          </div>
        )}
        {set.fed !== undefined && (
          <div>
            <dt>Power</dt>
            <dd>
              {set.fed ? `${set.outputs} outputs` : `not fed: ${(set.unfed ?? []).map(boxOf).join(', ')}`}
            </dd>
          </div>
        )}
      </Facts>
      {set.floor && <FloorPicture shown={{ floor: set.floor }} label={`${called} on the board`} />}
      {set.made.length === 0 && <Muted>It makes nothing.</Muted>}
    </Panel>
  )
}

const Columns = styled.ul`
  display: grid; grid-template-columns: repeat(auto-fill, minmax(250px, 1fr)); gap: 12px; align-items: start;
`
const Boxes = styled.ul`
  display: flex; flex-wrap: wrap; gap: 4px;
  li { font: 600 16px/1.2 var(--face-label); border: 1px solid var(--edge); padding: 4px 8px; max-width: 100%; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  small { display: block; font: 12px/1.2 var(--face-body); color: var(--muted); }
`
const Facts = styled.dl`
  display: grid; gap: 5px; font-size: 14px; margin: 0;
  > div { display: grid; grid-template-columns: 74px minmax(0, 1fr); gap: 8px; align-items: baseline; }
  dt { color: var(--muted); min-width: 0; } dd { margin: 0; min-width: 0; }
  small { display: block; font-size: 12px; color: var(--muted); } dd > span { display: block; }
`
