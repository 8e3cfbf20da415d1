import { useRef, useState } from 'react'
import { Radio, RadioGroup } from 'react-aria-components/RadioGroup'
import styled from 'styled-components'
import { answer, client, Problem } from '../../api/client'
import { useEdit, values } from '../../api/plan'
import type { Rig, Solution } from '../../api/types'
import { usePlace } from '../../state/place'
import { tape } from '../../theme/tokens'
import { Button } from '../../ui/controls'
import { Figure, Heading, Muted, Panel, Row, Tape } from '../../ui/layout'

type Programs = NonNullable<Rig['programs']>[string]

/** The programs of the rig's controllers, by bank and slot, and the best way to lay them out. */
export function Programs({ rig }: { rig: Rig }) {
  const { plan, setList, destination } = usePlace()
  const edit = useEdit()
  const [school, setSchool] = useState<'page' | 'song'>('page')
  const [found, setFound] = useState<Solution | undefined>()
  const [refused, refuse] = useState<string | undefined>()
  const [busy, setBusy] = useState(false)
  const running = useRef<AbortController | undefined>(undefined)
  const inPath = JSON.stringify(rig.path ?? [])
  const controllers = values(plan, 'gear').filter(
    (g) =>
      g.kind === 'controller' &&
      (g.footswitches ?? []).some((s) => s.press?.actions.some((a) => a.kind === 'recall')) &&
      (inPath.includes(`"switcher":"${g.id}"`) || rig.programs?.[g.id]),
  )
  if (controllers.length === 0 || !setList) return null
  const solve = async () => {
    const stop = new AbortController()
    running.current = stop
    setBusy(true)
    refuse(undefined)
    try {
      const query = { rig: rig.id, set_list: setList.id, destination: destination?.id, school }
      setFound(await answer(client.GET('/api/switch', { signal: stop.signal, params: { query } })))
    } catch (e) {
      if (!stop.signal.aborted) refuse(e instanceof Problem ? e.message : 'It could not be worked out.')
    } finally {
      setBusy(false)
    }
  }
  const take = (s: Solution) => {
    setFound(undefined)
    void edit.change('rigs', rig.id, school === 'page' ? 'One page of programs' : 'A bank per song', (r) => ({
      ...r,
      programs: { ...r.programs, [s.controller]: s.stored },
    }))
  }
  return (
    <Panel aria-label="Programs" role="region">
      <Row $gap={16}>
        <Heading>Programs</Heading>
        <Schools
          aria-label="Preset layout"
          value={school}
          onChange={(v) => {
            setSchool(v as 'page')
            setFound(undefined)
          }}
          orientation="horizontal"
        >
          <Radio value="page">One page for the whole night</Radio>
          <Radio value="song">A bank per song</Radio>
        </Schools>
        {busy ? (
          <Button onPress={() => running.current?.abort()}>Cancel</Button>
        ) : (
          <Button $strong onPress={() => void solve()}>
            Solve
          </Button>
        )}
        {busy && <Muted role="status">Working it out…</Muted>}
      </Row>
      {refused && <Muted role="alert">{refused}</Muted>}
      {found && (
        <Found aria-label="Found" role="group">
          <p>
            <Figure>{found.cost}</Figure> presses for programs over the night,{' '}
            {found.proven ? 'proven the least' : `none takes fewer than ${found.lower_bound}`}. Reach{' '}
            <Figure>
              {found.reach.reached}/{found.reach.total}
            </Figure>
            , as it stands{' '}
            <Figure>
              {found.before.reached}/{found.before.total}
            </Figure>
            .
          </p>
          {found.notes?.map((n) => (
            <Muted key={n}>{n}</Muted>
          ))}
          <Page programs={found.stored} />
          <Row>
            <Button $strong onPress={() => take(found)}>
              Take these programs
            </Button>
            <Button onPress={() => setFound(undefined)}>Leave it</Button>
          </Row>
        </Found>
      )}
      {controllers.map((g) => (
        <section key={g.id} aria-label={`Programs of ${g.name}`}>
          <b>{g.name}</b>
          {rig.programs?.[g.id] ? (
            <Page programs={rig.programs[g.id] ?? {}} />
          ) : (
            <Muted>No programs yet. Solve lays out one for every sound of the set.</Muted>
          )}
        </section>
      ))}
    </Panel>
  )
}

const inOrder = (a: string, b: string) => a.localeCompare(b, 'en', { numeric: true })

/** Banks as rows and slots as columns, each slot in the tape of its sound. */
function Page({ programs }: { programs: Programs }) {
  const { plan } = usePlace()
  const sounds = new Map(plan.sounds.map((s) => [s.value.id, s.value]))
  const banks = Object.keys(programs).sort(inOrder)
  const slots = [...new Set(banks.flatMap((b) => Object.keys(programs[b] ?? {})))].sort(inOrder)
  return (
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
          {banks.map((b) => (
            <tr key={b}>
              <th scope="row">{b}</th>
              {slots.map((s) => {
                const x = programs[b]?.[s]
                const sound = sounds.get(x?.sound ?? '')
                return (
                  <td key={s}>
                    {x ? (
                      <Tape $small title={x.label} style={{ background: tape(sound?.tape) }}>
                        {x.label ?? sound?.name ?? 'program'}
                      </Tape>
                    ) : (
                      <Muted as="span">empty</Muted>
                    )}
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </Scroll>
  )
}

const Found = styled.div`display: grid; gap: 8px; padding: 10px 12px; border: 2px dashed var(--focus);`
const Scroll = styled.div`
  overflow-x: auto; max-height: 340px; overflow-y: auto;
  table { border-collapse: collapse; }
  th { font: 600 14px/1.2 var(--face-label); color: var(--muted); text-align: left; padding: 3px 14px 3px 0; }
  td { padding: 3px 8px 3px 0; min-width: 96px; }
`
const Schools = styled(RadioGroup)`
  display: flex; flex-wrap: wrap; gap: 14px;
  label { display: inline-flex; align-items: center; gap: 6px; cursor: pointer; font-size: 13px; min-height: 28px; }
  label::before { content: ''; width: 12px; height: 12px; border: 1px solid var(--edge); border-radius: 50%; }
  label[data-selected]::before { background: var(--text); box-shadow: inset 0 0 0 2px var(--panel); }
  label[data-focus-visible] { outline: 2px solid var(--focus); }
`
