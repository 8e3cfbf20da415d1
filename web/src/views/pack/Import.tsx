import { useState } from 'react'
import { FileTrigger } from 'react-aria-components/FileTrigger'
import styled from 'styled-components'
import { Problem, sendAsItIs } from '../../api/client'
import { useColumns } from '../../api/pack'
import type { ImportResult, Understood } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useNotices } from '../../state/notices'
import { Button } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { Heading, Muted, Panel, Row } from '../../ui/layout'
import { Grid, Wide } from '../../ui/Table'

interface Offer {
  name: string
  text: string
  result: ImportResult
  understood: string[]
}

/** Reads a set list or a song of another program; the server says what it understood. */
const understand = (file: File) =>
  sendAsItIs<Understood>(`/api/read?name=${encodeURIComponent(file.name)}`, 'application/octet-stream', file)

const inWords = (u: Understood): string[] => [
  ...u.draft.songs.map(
    (s) =>
      `${s.title}: ${s.no_tempo ? 'no tempo, 120 is taken' : `${s.tempo.bpm} bpm`}, ${s.meter.beats}/${s.meter.unit}, ${
        s.sections.length > 0 ? s.sections.map((x) => x.label).join(', ') : 'no sections'
      }`,
  ),
  ...u.draft.left,
  ...u.said,
]

/** Sends a file as it is; the server reads it, so that what is wrong is said once. */
const send = (text: string, query: string) =>
  sendAsItIs<ImportResult>(`/api/import${query}`, 'application/json', text)

export function Import() {
  const edit = useEdit()
  const { say } = useNotices()
  const [offer, setOffer] = useState<Offer | undefined>()
  const [problem, setProblem] = useState<{ name: string; problem: Problem } | undefined>()
  const read = async (file: File | undefined) => {
    if (!file) return
    setOffer(undefined)
    setProblem(undefined)
    try {
      const other = /\.(csv|txt|midi?|cho|chopro|chordpro|crd|pro)$/i.test(file.name)
        ? await understand(file)
        : undefined
      const text = other ? other.file : await file.text()
      setOffer({
        name: file.name,
        text,
        result: await send(text, '?dry_run=true'),
        understood: other ? inWords(other) : [],
      })
    } catch (e) {
      setProblem({ name: file.name, problem: e instanceof Problem ? e : new Problem(0, undefined) })
    }
  }
  const take = async (resolve: string) => {
    if (!offer) return
    try {
      const done = await send(offer.text, resolve ? `?resolve=${resolve}` : '')
      say(`${offer.name}: ${done.added.length} added, ${done.replaced.length} replaced.`)
      setOffer(undefined)
    } catch (e) {
      setProblem({ name: offer.name, problem: e instanceof Problem ? e : new Problem(0, undefined) })
    }
    await edit.settle()
  }
  return (
    <Panel aria-label="Import">
      <Heading>Import</Heading>
      <Muted>
        An Envex file, a set list as CSV, a song as a Standard MIDI File or as ChordPro comes in whole or not
        at all. You see what it brings before anything changes.
      </Muted>
      <Row>
        <FileTrigger
          acceptedFileTypes={[
            '.json',
            'application/json',
            '.csv',
            '.mid',
            '.midi',
            '.cho',
            '.chopro',
            '.chordpro',
            '.crd',
            '.pro',
          ]}
          onSelect={(files) => void read(files?.[0])}
        >
          <Button $strong>Choose a file</Button>
        </FileTrigger>
        <Button onPress={() => void edit.loadDemo()}>Load the demo</Button>
      </Row>
      <Fold level={3} title="A set list as CSV: what its columns may hold">
        <ColumnTable />
      </Fold>
      {problem && (
        <Refused role="alert">
          <b>{problem.name} was not taken in. Your plan is as it was.</b>
          <ul>
            {problem.problem.details.length === 0 && <li>{problem.problem.message}</li>}
            {problem.problem.details.map((d) => (
              <li key={d.where + d.message}>
                {d.where && <code>{d.where}</code>} {d.message}
              </li>
            ))}
          </ul>
        </Refused>
      )}
      {offer && (
        <div role="group" aria-label={`What ${offer.name} brings`}>
          {offer.understood.length > 0 && (
            <ul aria-label="What was understood">
              {offer.understood.slice(0, 60).map((t) => (
                <li key={t}>{t}</li>
              ))}
              {offer.understood.length > 60 && <li>and {offer.understood.length - 60} more</li>}
            </ul>
          )}
          <p>
            {offer.name} brings {offer.result.added.length} new things
            {offer.result.added.length > 0 &&
              `: ${offer.result.added.slice(0, 12).join(', ')}${offer.result.added.length > 12 ? '…' : ''}`}
            . {offer.result.same} are here already just so.
          </p>
          {offer.result.conflicts.length > 0 && (
            <p>
              {offer.result.conflicts.length} are here with other content:{' '}
              {offer.result.conflicts.map((c) => c.mine).join(', ')}.
            </p>
          )}
          <Row>
            {offer.result.conflicts.length > 0 ? (
              <>
                <Button $strong onPress={() => void take('replace')}>
                  Replace mine
                </Button>
                <Button onPress={() => void take('copy')}>Keep both</Button>
                <Button onPress={() => void take('keep')}>Keep mine</Button>
              </>
            ) : (
              <Button $strong onPress={() => void take('')}>
                Take it in
              </Button>
            )}
            <Button onPress={() => setOffer(undefined)}>Leave it</Button>
          </Row>
        </div>
      )}
    </Panel>
  )
}

/** What may stand in each column, and a file to begin with. */
function ColumnTable() {
  const { data } = useColumns()
  return (
    <>
      <Muted>
        Fields are parted by commas, semicolons or tabs; a decimal comma is understood, and UTF-8, UTF-16 and
        Latin-1.{' '}
        <Template href="/api/read/template" download>
          Save a template
        </Template>
      </Muted>
      <Wide>
        <Grid aria-label="Columns of a set list">
          <thead>
            <tr>
              <th scope="col">Column</th>
              <th scope="col">Also called</th>
              <th scope="col">Columns it may have</th>
            </tr>
          </thead>
          <tbody>
            {data?.columns.map((c) => (
              <tr key={c.name}>
                <th scope="row">{c.name}</th>
                <td>{c.also.join(', ')}</td>
                <td>{c.holds}</td>
              </tr>
            ))}
          </tbody>
        </Grid>
      </Wide>
    </>
  )
}

const Template = styled.a`color: var(--text);`
const Refused = styled.div`
  border-left: 6px solid var(--red); padding: 6px 12px; display: grid; gap: 6px; max-height: 300px; overflow: auto;
  code { font-family: var(--face-figures); font-size: 13px; }
  ul { display: grid; gap: 3px; }
`
