import styled from 'styled-components'
import { values } from '../api/plan'
import type { Report } from '../api/types'
import { useEdit } from '../edits/useEdit'
import { Icon } from '../marks/marks'
import { useChosen } from '../state/place'
import { useIsStand } from '../state/role'
import { narrow, type ThemeName } from '../theme/tokens'
import { Actions } from '../ui/Actions'
import { IconButton } from '../ui/controls'
import { dayAndMonth } from '../ui/dates'
import { Figure } from '../ui/layout'
import { Select } from '../ui/Select'
import { useSame } from '../ui/useSame'
import { useShowAbove } from '../views/pack/useShow'
import { Find } from './Find'
import { useRigActs } from './rigActs'

export function TopBar({ theme, setTheme }: { theme: ThemeName; setTheme: (t: ThemeName) => void }) {
  const {
    plan,
    rig,
    destination,
    setList,
    report,
    other,
    pickRig,
    pickSet,
    pickShow,
    pickDestination,
    pickOther,
  } = useChosen()
  const stand = useIsStand()
  const acts = useRigActs()
  const shows = values(plan, 'shows')
  const sets = values(plan, 'set-lists')
  const show = useShowAbove()
  const nights = useSame([
    ...shows.map((s) => ({
      id: `show ${s.id}`,
      name: s.date ? `${s.name}, ${dayAndMonth(s.date)}` : s.name,
    })),
    ...sets.map((s) => ({ id: `set ${s.id}`, name: s.name })),
  ])
  const rigs = useSame(values(plan, 'rigs').map((r) => ({ id: r.id, name: r.name })))
  const places = useSame([
    { id: 'own', name: 'As it stands' },
    ...(rig?.destinations ?? []).map((d) => ({ id: d.id, name: d.name })),
  ])
  const others = useSame([{ id: 'none', name: 'Compare with' }, ...rigs.filter((r) => r.id !== rig?.id)])
  const pickNight = (id: string) => {
    const [kind, key] = id.split(' ')
    const chosen = shows.find((s) => s.id === key)
    if (kind === 'show' && chosen) pickShow(chosen.set_list, chosen.rig, chosen.destination)
    else if (key) pickSet(key)
  }
  return (
    <Bar>
      <Mark>ENVEX</Mark>
      {nights.length > 0 && (
        <Wide>
          <Select
            label="Show"
            hideLabel
            value={show ? `show ${show.id}` : setList && `set ${setList.id}`}
            options={nights}
            onChange={pickNight}
          />
        </Wide>
      )}
      <Wide>
        <Select
          label="Rig"
          hideLabel
          value={rig?.id}
          options={rigs}
          onChange={pickRig}
          placeholder="No rig yet"
        />
      </Wide>
      {rig?.destinations?.length ? (
        <Wide>
          <Select
            label="Plugs into"
            hideLabel
            value={destination?.id ?? 'own'}
            options={places}
            onChange={(id) => pickDestination(id === 'own' ? '' : id)}
          />
        </Wide>
      ) : null}
      {rigs.length > 1 && (
        <Wide $faint={!other}>
          <Select
            label="Compare with"
            hideLabel
            value={other?.id ?? 'none'}
            options={others}
            onChange={(id) => pickOther(id === 'none' ? '' : id)}
          />
        </Wide>
      )}
      {!stand && (
        <Actions label="Rig actions" acts={acts.list} plain>
          <Icon name="more" />
        </Actions>
      )}
      {acts.dialog}
      <Space />
      {report && <Reach report={report} />}
      <Find />
      {!stand && <Turns />}
      <IconButton
        label={theme === 'stage' ? 'Bench theme' : 'Stage theme'}
        onPress={() => setTheme(theme === 'stage' ? 'bench' : 'stage')}
      >
        <Icon name={theme === 'stage' ? 'sun' : 'moon'} />
      </IconButton>
    </Bar>
  )
}

/** Undo and redo, by what they would do. */
function Turns() {
  const { plan } = useChosen()
  const edit = useEdit()
  return (
    <>
      <IconButton
        label={plan.undo ? `Undo: ${plan.undo.label}` : 'Nothing to undo'}
        isDisabled={!plan.undo}
        onPress={() => edit.undo()}
      >
        <Icon name="undo" />
      </IconButton>
      <IconButton
        label={plan.redo ? `Redo: ${plan.redo.label}` : 'Nothing to redo'}
        isDisabled={!plan.redo}
        onPress={() => edit.redo()}
      >
        <Icon name="redo" />
      </IconButton>
    </>
  )
}

/** Reach as a figure, a bar cut by verdict, and the counts that are not plain sailing. */
function Reach({ report }: { report: Report }) {
  const r = report.reach
  const rest = [
    r.tight && `${r.tight} tight`,
    r.late && `${r.late} late`,
    r.by_hand && `${r.by_hand} by hand`,
    r.impossible && `${r.impossible} impossible`,
  ].filter(Boolean)
  const share = (n: number) => ({ width: `${r.total ? (100 * n) / r.total : 0}%` })
  return (
    <Score role="status" aria-label="Reach" title={rest.join(', ')}>
      <small>Reach</small>
      <b>
        {r.total > 0 || r.not_set === 0 ? r.reached : '–'}
        {(r.total > 0 || r.not_set === 0) && <span>/{r.total}</span>}
      </b>
      <Meter aria-hidden="true">
        <i style={{ ...share(r.in_time), background: 'var(--lit)' }} />
        <i style={{ ...share(r.tight), background: 'var(--muted)' }} />
        <i style={{ ...share(r.late + r.by_hand + r.impossible), background: 'var(--red)' }} />
      </Meter>
      <Rest>{rest.join(', ')}</Rest>
      {r.not_set > 0 && <Unset>{r.not_set} not set yet</Unset>}
    </Score>
  )
}

const Bar = styled.header`
  display: flex; align-items: center; gap: 8px; padding: 8px 16px; border-bottom: 1px solid var(--line); min-height: 52px;
  ${narrow} { flex-wrap: wrap; padding: 8px 12px; }
`
const Mark = styled.span`font: 400 24px/1 var(--face-mark); letter-spacing: 0.02em; margin-right: 10px; ${narrow} { display: none; }`
const Wide = styled.div<{ $faint?: boolean }>`
  min-width: 0; max-width: 190px;
  ${narrow} { flex: 1 1 40%; max-width: none; button { width: 100%; } }
  ${(p) => p.$faint && 'button { border-style: dashed; color: var(--muted); }'}
  button { font: 600 16px/1.2 var(--face-label); letter-spacing: 0.03em; text-transform: uppercase; }
`
const Space = styled.div`flex: 1; ${narrow} { display: none; }`
const Score = styled.div`
  display: flex; align-items: center; gap: 12px; margin-right: 8px; white-space: nowrap;
  small { font: 600 13px/1 var(--face-label); letter-spacing: 0.06em; text-transform: uppercase; color: var(--muted); }
  b { font: 400 24px/1 var(--face-figures); }
  b span { color: var(--muted); }
`
const Meter = styled.div`display: flex; width: 130px; height: 14px; @media (max-width: 1400px) { width: 84px; } ${narrow} { display: none; } background: var(--sunk); i { display: block; height: 100%; }`
const Unset = styled.span`color: var(--muted); font-size: 12px; white-space: normal; max-width: 64px; line-height: 1.2;`
const Rest = styled(
  Figure,
)`color: var(--muted); font-size: 12px; font-family: var(--face-body); white-space: normal; max-width: 150px; line-height: 1.2; @media (max-width: 1400px) { display: none; }`
