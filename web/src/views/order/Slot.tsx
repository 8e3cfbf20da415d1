import styled from 'styled-components'
import { freshId } from '../../api/client'
import { useSlotChoices, values } from '../../api/plan'
import type { Gear, Rig, Swap } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { SideBySide } from '../../frame/SideBySide'
import { useChosen } from '../../state/place'
import { Button } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { TextField } from '../../ui/fields'
import { Muted, Name, Row, Stack } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { useChain } from './useChain'
import { useSlots } from './useSlots'

/** The swap slot that a box stands in, or the way to make its place one. */
export function Slot({ rig, gear }: { rig: Rig; gear: Gear }) {
  const slot = useSlots(rig).of(gear.id)
  return (
    <Fold title={slot ? `Swap slot: ${slot.name}` : 'Another box can stand here'}>
      <Stack style={{ paddingTop: 10 }}>
        {slot ? (
          <Boxes rig={rig} slot={slot} />
        ) : (
          <Muted>Chorus or tremolo: one rig, and a show picks.</Muted>
        )}
        <AnotherBox key={gear.id} rig={rig} gear={gear} slot={slot} />
      </Stack>
    </Fold>
  )
}

/** The boxes of a slot: which stands there, which songs ask for another, and how they differ. */
function Boxes({ rig, slot }: { rig: Rig; slot: Swap }) {
  const { plan, setList } = useChosen()
  const edit = useEdit()
  const slots = useSlots(rig)
  const { put } = useChain()
  const set = (what: string, update: (s: Swap) => Swap) =>
    edit.change('rigs', rig.id, what, (r) => ({
      ...r,
      swaps: r.swaps?.map((s) => (s.id === slot.id ? update(s) : s)),
    }))
  const inSet = new Set((setList?.entries ?? []).map((e) => e.song))
  const songs = values(plan, 'songs').filter((s) => inSet.has(s.id))
  const chain = JSON.stringify([rig.path, (rig.destinations ?? []).map((d) => d.path)])
  const stands = (id: string) => chain.includes(`"stop":"${id}/`)
  const boxes = slot.boxes ?? []
  const remove = (id: string) =>
    edit.change('rigs', rig.id, `${slots.name(id)} out of ${slot.name}`, (r) => ({
      ...r,
      swaps: r.swaps
        ?.map((s) => (s.id === slot.id ? { ...s, boxes: s.boxes?.filter((b) => b.gear !== id) } : s))
        .filter((s) => (s.boxes?.length ?? 0) > 1),
    }))
  return (
    <>
      <TextField
        label="Name of the slot"
        value={slot.name}
        onCommit={(name) => set('Name of a slot', (s) => ({ ...s, name }))}
      />
      <Cards aria-label={`Boxes of ${slot.name}`}>
        {boxes.map((b) => (
          <li key={b.gear} aria-label={slots.name(b.gear)}>
            <Row $gap={10} style={{ alignItems: 'center' }}>
              <Name>{slots.name(b.gear)}</Name>
              {stands(b.gear) ? (
                <Muted as="span">in the chain</Muted>
              ) : (
                <Button onPress={() => void put(slot, b.gear)}>Put {slots.name(b.gear)} in</Button>
              )}
            </Row>
            <Row $gap={8} style={{ alignItems: 'center' }}>
              {(b.songs ?? []).map((id) => (
                <Song key={id}>
                  {songTitle(songs, id, plan)}
                  <Button
                    aria-label={`${songTitle(songs, id, plan)} as the slot stands`}
                    onPress={() =>
                      set(`${songTitle(songs, id, plan)} as the slot stands`, (s) => asking(s, id, undefined))
                    }
                  >
                    ×
                  </Button>
                </Song>
              ))}
              {songs.some((s) => !b.songs?.includes(s.id)) && (
                <Select
                  label={`A song that is played with ${slots.name(b.gear)}`}
                  hideLabel
                  value={undefined}
                  placeholder="for a song …"
                  options={songs
                    .filter((s) => !b.songs?.includes(s.id))
                    .map((s) => ({ id: s.id, name: s.title }))}
                  onChange={(id) =>
                    set(`${songTitle(songs, id, plan)} with ${slots.name(b.gear)}`, (s) =>
                      asking(s, id, b.gear),
                    )
                  }
                />
              )}
              {!stands(b.gear) && (
                <Button
                  aria-label={`Take ${slots.name(b.gear)} out of ${slot.name}`}
                  onPress={() => void remove(b.gear)}
                >
                  Out of the slot
                </Button>
              )}
            </Row>
          </li>
        ))}
      </Cards>
      {boxes.some((b) => b.songs?.length) && (
        <Muted>
          A song that asks for the other box has it put there by hand before it: reach counts the time, which
          is under Foot timing in Step.
        </Muted>
      )}
      <SideBySide title="How they differ" rig={rig.id} query={{ slot: slot.id }} />
    </>
  )
}

const songTitle = (songs: { id: string; title: string }[], id: string, plan: Parameters<typeof values>[0]) =>
  songs.find((s) => s.id === id)?.title ?? values(plan, 'songs').find((s) => s.id === id)?.title ?? id

/** A slot in which a song asks for a box, and for no other of them. */
const asking = (slot: Swap, song: string, gear: string | undefined): Swap => ({
  ...slot,
  boxes: slot.boxes?.map((b) => {
    const others = (b.songs ?? []).filter((s) => s !== song)
    return { ...b, songs: b.gear === gear ? [...others, song] : others.length > 0 ? others : undefined }
  }),
})

/** Gives the place of a box a further one, of those that are owned and not in the chain. */
function AnotherBox({ rig, gear, slot }: { rig: Rig; gear: Gear; slot: Swap | undefined }) {
  const edit = useEdit()
  const slots = useSlots(rig)
  const { data } = useSlotChoices(rig.id, gear.id)
  const taken = new Set((rig.swaps ?? []).flatMap((s) => (s.boxes ?? []).map((b) => b.gear)))
  const can = (data?.choices ?? []).filter((c) => !c.why && !taken.has(c.gear))
  const cannot = (data?.choices ?? []).filter((c) => c.why)
  const add = (id: string) => {
    const made = freshId()
    return edit.change('rigs', rig.id, `${slots.name(id)} may stand for ${gear.name}`, (r) => ({
      ...r,
      swaps: slot
        ? r.swaps?.map((s) => (s.id === slot.id ? { ...s, boxes: [...(s.boxes ?? []), { gear: id }] } : s))
        : [
            ...(r.swaps ?? []),
            { id: made, name: `${gear.name} or ${slots.name(id)}`, boxes: [{ gear: gear.id }, { gear: id }] },
          ],
    }))
  }
  if (!data) return null
  return (
    <>
      {can.length > 0 ? (
        <Row>
          <Select
            label={slot ? 'A further box' : `In the place of ${gear.name}`}
            value={undefined}
            placeholder="choose a box"
            options={can.map((c) => ({ id: c.gear, name: c.name }))}
            onChange={(id) => void add(id)}
          />
        </Row>
      ) : (
        <Muted>You own no other pedal that is out of the chain and could stand here.</Muted>
      )}
      {cannot.length > 0 && <Muted>{cannot.map((c) => `${c.why}.`).join(' ')}</Muted>}
    </>
  )
}

const Cards = styled.ul`display: grid; grid-template-columns: repeat(auto-fill, minmax(min(100%, 300px), 1fr)); gap: 10px; margin: 0; padding: 0; list-style: none;
  > li { border: 1px solid var(--line); padding: 10px 12px; display: grid; gap: 8px; align-content: start; min-width: 0; }`
const Song = styled.span`display: inline-flex; align-items: center; gap: 4px; border: 1px solid var(--line); padding: 0 0 0 8px; font-size: 13px;
  button { border: 0; background: none; min-width: 24px; min-height: 24px; padding: 0 6px; }`
