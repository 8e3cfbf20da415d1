import { useState } from 'react'
import { Radio, RadioGroup } from 'react-aria-components/RadioGroup'
import styled from 'styled-components'
import { values } from '../../api/plan'
import type { Rig, Solution } from '../../api/types'
import { useWork } from '../../api/work'
import { useChosen } from '../../state/place'
import { Button, Switch } from '../../ui/controls'
import { Heading, Muted, Panel, Row } from '../../ui/layout'
import { Progress } from '../../ui/Progress'
import { Select } from '../../ui/Select'
import { SchoolsCompared } from './SchoolsCompared'
import { SlotPage } from './SlotPage'
import { Solved } from './Solved'
import { type School, schools } from './schools'

/** The programs of the rig's controllers, by bank and slot, and the best way to lay them out. */
export function Programs({ rig }: { rig: Rig }) {
  const { plan, setList, destination } = useChosen()
  const [school, setSchool] = useState<School>('page')
  const [loops, setLoops] = useState(false)
  const [comparing, compare] = useState(false)
  const [asked, ask] = useState(false)
  const [picked, pick] = useState<string | undefined>()
  const inPath = JSON.stringify(rig.path ?? [])
  const owned = values(plan, 'gear').filter(
    (g) =>
      g.kind === 'controller' &&
      (g.footswitches ?? []).some((s) => s.press?.actions.some((a) => a.kind === 'recall')),
  )
  const inRig = owned.filter((g) => inPath.includes(`"switcher":"${g.id}"`) || rig.programs?.[g.id])
  const controller =
    owned.find((g) => g.id === picked) ?? inRig[0] ?? (owned.length === 1 ? owned[0] : undefined)
  const query = {
    rig: rig.id,
    set_list: setList?.id,
    destination: destination?.id,
    controller: controller?.id,
    school,
    loops,
  }
  const work = useWork<Solution>('/api/switch', asked && setList && controller ? query : undefined)
  if (owned.length === 0 || !setList) return null
  const again = (change: () => void) => {
    change()
    ask(false)
  }
  return (
    <Panel aria-label="Programs" role="region">
      <Row $gap={16}>
        <Heading>Programs</Heading>
        {owned.length > 1 && (
          <Select
            label="Controller"
            hideLabel
            value={controller?.id}
            options={owned.map((g) => ({
              id: g.id,
              name: inRig.includes(g) ? g.name : `${g.name}, not in yet`,
            }))}
            onChange={(id) => again(() => pick(id))}
          />
        )}
        <Schools
          aria-label="Preset layout"
          value={school}
          onChange={(v) => again(() => setSchool(v as School))}
          orientation="horizontal"
        >
          {schools.map((s) => (
            <Radio key={s.id} value={s.id}>
              {s.name}
            </Radio>
          ))}
        </Schools>
        {controller?.switcher && (
          <Switch label="Choose loops too" value={loops} onChange={(on) => again(() => setLoops(on))} />
        )}
        {work.busy ? (
          <Progress label="Working it out" share={work.progress} cancel={() => again(work.cancel)} />
        ) : (
          <>
            <Button $strong isDisabled={!controller} onPress={() => (asked ? work.again() : ask(true))}>
              Solve
            </Button>
            <Button onPress={() => compare(!comparing)} isDisabled={!controller}>
              {comparing ? 'Close comparison' : 'Compare schools'}
            </Button>
          </>
        )}
      </Row>
      {work.refused && <Muted role="alert">{work.refused}</Muted>}
      {comparing && controller && <SchoolsCompared query={{ ...query, loops }} />}
      {asked && work.result && !work.busy && (
        <Solved rig={rig} found={work.result} work={work} leave={() => ask(false)} />
      )}
      {inRig.map((g) => (
        <section key={g.id} aria-label={`Programs of ${g.name}`}>
          <b>{g.name}</b>
          {rig.programs?.[g.id] ? (
            <SlotPage rig={rig} controller={g.id} programs={rig.programs[g.id] ?? {}} />
          ) : (
            <Muted>No programs yet. Solve lays out one for every sound of the set.</Muted>
          )}
        </section>
      ))}
      {inRig.length === 0 && controller && (
        <Muted>
          {controller.name} is not in this rig yet. Solve shows what it would make of it, loops and all.
        </Muted>
      )}
    </Panel>
  )
}

const Schools = styled(RadioGroup)`
  display: flex; flex-wrap: wrap; gap: 14px;
  label { display: inline-flex; align-items: center; gap: 6px; cursor: pointer; font-size: 13px; min-height: 28px; }
  label::before { content: ''; width: 12px; height: 12px; border: 1px solid var(--edge); border-radius: 50%; }
  label[data-selected]::before { background: var(--text); box-shadow: inset 0 0 0 2px var(--panel); }
  label[data-focus-visible] { outline: 2px solid var(--focus); }
`
