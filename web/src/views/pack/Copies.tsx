import { FileTrigger } from 'react-aria-components/FileTrigger'
import styled from 'styled-components'
import { Problem } from '../../api/client'
import { type Kept, useCopies, useCopyActs } from '../../api/copies'
import { useEdit } from '../../edits/useEdit'
import { useNotices } from '../../state/notices'
import { Button } from '../../ui/controls'
import { moment } from '../../ui/dates'
import { Figure, Heading, Muted, Panel, Row } from '../../ui/layout'
import { Grid, Wide } from '../../ui/Table'
import { inWords, sizeOf } from './contents'

const kinds = { daily: 'of the day', schema: 'before an update of Envex', hand: 'made by hand' } as const

/** Copies of everything: made by themselves each day, or by hand; saved, brought back. */
export function Copies() {
  const { data, error } = useCopies()
  const { make, take, remove } = useCopyActs()
  const edit = useEdit()
  const { say, tell } = useNotices()
  const showError = (e: unknown) => tell(e instanceof Problem ? e : new Problem(0, undefined))
  const bringBack = async (c: Kept) => {
    if ((await edit.bringBack(c.name)).ok)
      say(`The plan is as it was on ${moment(c.at)}. Undo takes that back.`)
  }
  return (
    <Panel aria-label="Copies">
      <Heading>Copies</Heading>
      <Muted>
        A copy has everything: the plan, every version of it, what can be undone, and the rehearsals. One is
        made each day that Envex runs. The last seven days are kept, and one of each of four weeks.
      </Muted>
      <Row>
        <Button
          $strong
          isDisabled={make.isPending}
          onPress={() => make.mutateAsync().then(() => say('A copy was made.'), showError)}
        >
          Make a copy now
        </Button>
        <Save href="/api/backup" download>
          Save a copy as a file
        </Save>
        <FileTrigger
          acceptedFileTypes={['.db']}
          onSelect={(files) => {
            const file = files?.[0]
            if (file)
              take.mutateAsync(file).then((c) => say(`It is in the list: ${inWords(c.contents)}.`), showError)
          }}
        >
          <Button isDisabled={take.isPending}>Bring a copy from a file</Button>
        </FileTrigger>
      </Row>
      {error && <p role="alert">{error.message}</p>}
      {data?.copies.length === 0 && <Muted>There is no copy yet.</Muted>}
      {data && data.copies.length > 0 && (
        <Wide>
          <Grid aria-label="Copies that are kept">
            <thead>
              <tr>
                <th scope="col">When</th>
                <th scope="col">What for</th>
                <th scope="col">Size</th>
                <th scope="col">What is in it</th>
                <th scope="col">Do</th>
              </tr>
            </thead>
            <tbody>
              {data.copies.map((c) => (
                <tr key={c.name}>
                  <th scope="row">
                    <Whole>{moment(c.at)}</Whole>
                  </th>
                  <td>{kinds[c.kind]}</td>
                  <td>
                    <Whole>{sizeOf(c.bytes)}</Whole>
                  </td>
                  <What>{c.problem ? <Bad>It cannot be used: {c.problem}</Bad> : inWords(c.contents)}</What>
                  <td>
                    <Acts>
                      {!c.problem && (
                        <Button
                          aria-label={`Bring back the copy of ${moment(c.at)}`}
                          onPress={() => void bringBack(c)}
                        >
                          Bring back
                        </Button>
                      )}
                      <Save
                        href={`/api/copies/${encodeURIComponent(c.name)}/file`}
                        aria-label={`Save the copy of ${moment(c.at)} as a file`}
                        download
                      >
                        Save
                      </Save>
                      <Button
                        $plain
                        aria-label={`Remove the copy of ${moment(c.at)}`}
                        onPress={() => remove.mutateAsync(c.name).catch(showError)}
                      >
                        Remove
                      </Button>
                    </Acts>
                  </td>
                </tr>
              ))}
            </tbody>
          </Grid>
        </Wide>
      )}
      {data && (
        <Muted>
          They are in <Folder>{data.folder}</Folder>. A disk can fail with all that is on it: save one
          elsewhere now and then.
        </Muted>
      )}
    </Panel>
  )
}

const Acts = styled.div`display: flex; gap: 4px; align-items: start; white-space: nowrap;`
const What = styled.td`min-width: 180px;`
const Whole = styled(Figure)`white-space: nowrap;`
const Save = styled.a`
  padding: 6px 12px; border: 1px solid var(--edge); background: var(--raised); color: var(--text); text-decoration: none; min-height: 32px; font-size: 13px;
  &:hover { border-color: var(--text); }
`
const Bad = styled.span`border-left: 4px solid var(--red); padding-left: 8px; overflow-wrap: anywhere;`
const Folder = styled.code`font-family: var(--face-figures); font-size: 13px; overflow-wrap: anywhere;`
