import { useRef, useState } from 'react'
import { useDrag } from 'react-aria/useDrag'
import { useDrop } from 'react-aria/useDrop'
import styled from 'styled-components'
import type { Rig, Seat } from '../../api/types'
import { useWork } from '../../api/work'
import { useEdit } from '../../edits/useEdit'
import { Icon } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { Actions } from '../../ui/Actions'
import { Figure, Muted, Tape } from '../../ui/layout'
import { inOrder, type Where, withProgramAt } from './slots'
import { useSoundTape } from './useSoundTape'

type Programs = NonNullable<Rig['programs']>[string]

/** Banks as rows and slots as columns, each slot in the tape of its sound. A program is dragged to
 * another slot, by mouse or by keyboard, and every slot says what that would come to. */
export function SlotPage({
  rig,
  controller,
  programs,
}: {
  rig: Rig
  controller: string
  programs: Programs
}) {
  const { setList, destination, plan } = useChosen()
  const edit = useEdit()
  const [lifted, lift] = useState<Where | undefined>()
  const [asked, ask] = useState<Where | undefined>()
  const from = lifted ?? asked
  const seats = useWork<{ seats: Seat[] }>(
    '/api/switch/seats',
    from && setList
      ? { rig: rig.id, set_list: setList.id, destination: destination?.id, controller, ...from }
      : undefined,
  )
  const banks = Object.keys(programs).sort(inOrder)
  const gear = plan.gear.find((g) => g.value.id === controller)?.value
  const switches = (gear?.footswitches ?? [])
    .map((s) => s.press?.actions.find((a) => a.kind === 'recall')?.value)
    .filter((v): v is string => typeof v === 'string' && !v.includes('/'))
  const slots = [...new Set([...switches, ...banks.flatMap((b) => Object.keys(programs[b] ?? {}))])].sort(
    inOrder,
  )
  const now = seats.result?.seats[0]
  const seatAt = (w: Where) => seats.result?.seats.find((s) => s.bank === w.bank && s.slot === w.slot)
  const move = (a: Where, b: Where) => {
    lift(undefined)
    ask(undefined)
    if (a.bank === b.bank && a.slot === b.slot) return
    const moved = programs[a.bank]?.[a.slot]
    const words = `Move ${moved?.label ?? 'a program'} to ${b.bank}/${b.slot}`
    void edit.change('rigs', rig.id, words, (r) => withProgramAt(r, controller, moved, a, b))
  }
  const pins = rig.slot_pins ?? []
  const pinned = (w: Where) =>
    pins.find(
      (p) =>
        p.controller === controller &&
        p.slot === w.slot &&
        (!p.bank || p.bank === w.bank) &&
        p.sound === programs[w.bank]?.[w.slot]?.sound,
    )
  const pin = (w: Where) => {
    const sound = programs[w.bank]?.[w.slot]?.sound
    const label = programs[w.bank]?.[w.slot]?.label ?? 'it'
    if (!sound) return
    const has = pinned(w)
    void edit.change('rigs', rig.id, has ? `Let ${label} move` : `Keep ${label} on slot ${w.slot}`, (r) => ({
      ...r,
      slot_pins: has
        ? (r.slot_pins ?? []).filter((p) => !(p.controller === controller && p.sound === sound))
        : [
            ...(r.slot_pins ?? []).filter(
              (p) => p.controller !== controller || (p.sound !== sound && p.slot !== w.slot),
            ),
            { controller, slot: w.slot, sound },
          ],
    }))
  }
  return (
    <>
      <Scroll>
        <table>
          <thead>
            <tr>
              <th scope="col">Bank</th>
              {slots.map((s) => (
                <th scope="col" key={s}>
                  {s}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {banks.map((bank) => (
              <tr key={bank}>
                <th scope="row">{bank}</th>
                {slots.map((slot) => (
                  <SlotCell
                    key={slot}
                    at={{ bank, slot }}
                    program={programs[bank]?.[slot]}
                    pinned={Boolean(pinned({ bank, slot }))}
                    seat={from ? seatAt({ bank, slot }) : undefined}
                    now={now}
                    lifted={from?.bank === bank && from?.slot === slot}
                    onLift={lift}
                    onDrop={(a) => move(a, { bank, slot })}
                    onAsk={() => ask({ bank, slot })}
                    onPin={() => pin({ bank, slot })}
                    seats={asked?.bank === bank && asked?.slot === slot ? (seats.result?.seats ?? []) : []}
                    onMove={(b) => move({ bank, slot }, b)}
                  />
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
      <Muted role="status">
        {!from
          ? 'Drag a program to another slot, or use its menu: what each slot would come to is shown first.'
          : seats.busy
            ? `Working out every slot, ${Math.round(seats.progress * 100)} %.`
            : now
              ? `Where it stands: reach ${now.reach.reached}/${now.reach.total}, ${now.reach.presses} presses, ${now.reach.footwork_s.toFixed(1)} s of footwork.`
              : (seats.refused ?? '')}
      </Muted>
    </>
  )
}

function SlotCell(p: {
  at: Where
  program: Programs[string][string] | undefined
  pinned: boolean
  seat: Seat | undefined
  now: Seat | undefined
  lifted: boolean
  seats: Seat[]
  onLift: (w: Where | undefined) => void
  onDrop: (from: Where) => void
  onAsk: () => void
  onPin: () => void
  onMove: (to: Where) => void
}) {
  const tapeOf = useSoundTape()
  const ref = useRef<HTMLTableCellElement>(null)
  const { dropProps, isDropTarget } = useDrop({
    ref,
    getDropOperation: (types) => (types.has('envex-slot') ? 'move' : 'cancel'),
    onDrop: (e) => {
      const item = e.items.find((i) => i.kind === 'text')
      if (item?.kind === 'text') {
        void item.getText('envex-slot').then((text) => p.onDrop(JSON.parse(text) as Where))
      }
    },
  })
  const name = p.program?.label ?? 'program'
  return (
    <td
      ref={ref}
      {...dropProps}
      aria-label={`${p.at.bank}/${p.at.slot}${p.program ? `, ${name}` : ', empty'}`}
    >
      <Slot $over={isDropTarget} $lifted={p.lifted}>
        {p.program ? (
          <Held at={p.at} name={name} tape={tapeOf(p.program.sound)} onLift={p.onLift} />
        ) : (
          <Muted as="span">empty</Muted>
        )}
        {p.pinned && <small>kept</small>}
        {p.program && (
          <Actions
            onOpen={p.onAsk}
            plain
            label={`${name} on ${p.at.bank}/${p.at.slot}`}
            acts={[
              {
                id: 'pin',
                name: p.pinned ? `Let ${name} move` : `Keep ${name} on slot ${p.at.slot}`,
                run: p.onPin,
                disabled: !p.program.sound,
              },
              ...p.seats.slice(1).map((s) => ({
                id: `${s.bank}/${s.slot}`,
                name: `To ${s.bank}/${s.slot}${s.holds ? `, for ${s.holds}` : ''}: reach ${s.reach.reached}, ${s.reach.presses} presses`,
                run: () => p.onMove(s),
              })),
            ]}
          >
            <Icon name="more" />
          </Actions>
        )}
        {p.seat && p.now && !p.lifted && (
          <Cost aria-hidden="true">
            {signed(p.seat.reach.reached - p.now.reach.reached)} reach,{' '}
            {signed(p.seat.reach.presses - p.now.reach.presses)} presses
          </Cost>
        )}
      </Slot>
    </td>
  )
}

const signed = (n: number) => (n > 0 ? `+${n}` : n < 0 ? `−${-n}` : '0')

/** A program that can be lifted off its slot. */
function Held(p: { at: Where; name: string; tape: string; onLift: (w: Where | undefined) => void }) {
  const { dragProps } = useDrag({
    getItems: () => [{ 'envex-slot': JSON.stringify(p.at), 'text/plain': p.name }],
    onDragStart: () => p.onLift(p.at),
    onDragEnd: () => p.onLift(undefined),
  })
  return (
    <Grip
      {...dragProps}
      role="button"
      tabIndex={0}
      aria-label={`Move ${p.name} from ${p.at.bank}/${p.at.slot}`}
      data-keys="own"
    >
      <Tape $small title={p.name} style={{ background: p.tape }}>
        {p.name}
      </Tape>
    </Grip>
  )
}

const Scroll = styled.div`
  overflow-x: auto; max-height: 340px; overflow-y: auto;
  table { border-collapse: collapse; }
  th { font: 600 14px/1.2 var(--face-label); color: var(--muted); text-align: left; padding: 3px 14px 3px 0; }
  td { padding: 3px 8px 3px 0; min-width: 112px; vertical-align: top; }
`
const Slot = styled.div<{ $over: boolean; $lifted: boolean }>`
  display: flex; flex-wrap: wrap; align-items: center; gap: 2px 6px; min-height: 30px; padding: 1px 3px;
  border: 1px dashed ${(p) => (p.$over ? 'var(--focus)' : 'transparent')}; ${(p) => p.$lifted && 'opacity: 0.5;'}
  small { font-size: 12px; color: var(--muted); }
`
const Grip = styled.div`cursor: grab; min-width: 0; &:focus-visible { outline: 2px solid var(--focus); outline-offset: 2px; }`
const Cost = styled(Figure)`flex: 1 0 100%; font-size: 12px; color: var(--muted);`
