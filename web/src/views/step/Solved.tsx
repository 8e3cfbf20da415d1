import { useState } from 'react'
import styled from 'styled-components'
import type { Rig, Solution } from '../../api/types'
import type { Working } from '../../api/work'
import { useEdit } from '../../edits/useEdit'
import { Button, Switch } from '../../ui/controls'
import { Figure, Muted, Row, Tape } from '../../ui/layout'
import { Grid, Wide } from '../../ui/Table'
import { TakeButton } from '../../ui/TakeButton'
import { inOrder } from './slots'
import { useSoundTape } from './useSoundTape'

type Programs = NonNullable<Rig['programs']>[string]

/** What was found, beside what is there, to be taken whole or in part. */
export function Solved({
  rig,
  found,
  work,
  leave,
}: {
  rig: Rig
  found: Solution
  work: Working<Solution>
  leave: () => void
}) {
  const edit = useEdit()
  const [left, setLeft] = useState<Set<string>>(new Set())
  const sound = useSoundTape()
  const direct = found.school === 'direct'
  const rewired = found.loops.some(
    (l) => l.stops.join() !== l.was.join() || (l.held ?? false) !== held(rig, found, l.loop),
  )
  const words = { page: 'One page of programs', song: 'A bank per song', direct: 'A switch for every loop' }
  const takeAll = () => {
    leave()
    const r = found.rig
    void edit.change(
      'rigs',
      rig.id,
      words[found.school],
      (now) => ({
        ...now,
        programs: r.programs,
        presets: r.presets,
        assignments: r.assignments,
        ...(rewired && { path: r.path, held: r.held }),
      }),
      work.from,
    )
  }
  const takeSome = () => {
    leave()
    void edit.change(
      'rigs',
      rig.id,
      `Some programs: ${found.programs.length - left.size}`,
      (now) => {
        const own: Programs = structuredClone(now.programs?.[found.controller] ?? {})
        for (const p of found.programs) {
          const stored = found.stored[p.bank]?.[p.slot]
          if (left.has(`${p.bank}/${p.slot}`) || !stored) continue
          own[p.bank] = { ...own[p.bank], [p.slot]: stored }
        }
        return { ...now, programs: { ...now.programs, [found.controller]: own }, presets: found.rig.presets }
      },
      work.from,
    )
  }
  return (
    <Found aria-label="Found" role="group">
      <p>
        {found.words} Reach{' '}
        <Figure>
          {found.reach.reached}/{found.reach.total}
        </Figure>
        , as it stands{' '}
        <Figure>
          {found.before.reached}/{found.before.total}
        </Figure>
        . Footwork <Figure>{found.reach.footwork_s.toFixed(1)} s</Figure>, as it stands{' '}
        <Figure>{found.before.footwork_s.toFixed(1)} s</Figure>.
      </p>
      {found.notes?.map((n) => (
        <Muted key={n}>{n}</Muted>
      ))}
      <Side>
        {rewired && (
          <Grid aria-label="Loops, old and new">
            <thead>
              <tr>
                <th scope="col">Loop</th>
                <th scope="col">Now</th>
                <th scope="col">Found</th>
              </tr>
            </thead>
            <tbody>
              {found.loops.map((l) => (
                <tr key={l.loop}>
                  <th scope="row">{l.loop}</th>
                  <td>{l.was.join(', ') || 'spare'}</td>
                  <td>
                    {l.stops.join(', ') || 'spare'}
                    {l.held && ', held on'}
                  </td>
                </tr>
              ))}
            </tbody>
          </Grid>
        )}
        {!direct && (
          <Wide>
            <Grid aria-label="Programs, old and new">
              <thead>
                <tr>
                  <th scope="col">Slot</th>
                  <th scope="col">Now</th>
                  <th scope="col">Found</th>
                  <th scope="col">Take</th>
                </tr>
              </thead>
              <tbody>
                {[...found.programs]
                  .sort((a, b) => inOrder(a.bank, b.bank) || inOrder(a.slot, b.slot))
                  .map((p) => {
                    const at = `${p.bank}/${p.slot}`
                    return (
                      <tr key={at}>
                        <th scope="row">{at}</th>
                        <td>{p.was || <Muted as="span">empty</Muted>}</td>
                        <td>
                          <Tape $small style={{ background: sound(p.sounds[0]) }}>
                            {p.sound}
                          </Tape>
                          {p.pinned && ' kept there'}
                        </td>
                        <td>
                          <Switch
                            hideLabel
                            label={`Take ${p.sound} on ${at}`}
                            value={!left.has(at)}
                            onChange={(on) =>
                              setLeft((old) => {
                                const next = new Set(old)
                                if (on) next.delete(at)
                                else next.add(at)
                                return next
                              })
                            }
                          />
                        </td>
                      </tr>
                    )
                  })}
              </tbody>
            </Grid>
          </Wide>
        )}
      </Side>
      <Row>
        <TakeButton
          $strong
          fresh={work.fresh}
          onPress={left.size === 0 ? takeAll : takeSome}
          isDisabled={left.size > 0 && rewired}
        >
          {left.size > 0
            ? `Take ${found.programs.length - left.size} of ${found.programs.length}`
            : direct
              ? 'Take these switches'
              : rewired
                ? 'Take loops and programs'
                : 'Take these programs'}
        </TakeButton>
        <Button onPress={leave}>Leave it</Button>
        {left.size > 0 && rewired && <Muted>With other loops the programs go together.</Muted>}
      </Row>
    </Found>
  )
}

const held = (rig: Rig, found: Solution, loop: number) =>
  Boolean(rig.held?.some((h) => h.switcher === found.controller && h.loop === loop))

const Side = styled.div`display: flex; flex-wrap: wrap; gap: 10px 36px; align-items: flex-start;`
const Found = styled.div`display: grid; gap: 8px; padding: 10px 12px; border: 2px dashed var(--focus);`
