import { useState } from 'react'
import { Heading as AriaHeading } from 'react-aria-components/Heading'
import { Input } from 'react-aria-components/Input'
import { Modal } from 'react-aria-components/Modal'
import { SearchField } from 'react-aria-components/SearchField'
import { useNavigate } from 'react-router'
import styled from 'styled-components'
import { answer, client, freshId, Problem } from '../../api/client'
import { useKinds } from '../../api/plan'
import type { Kind } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { EffectMark } from '../../marks/marks'
import { useNotices } from '../../state/notices'
import { Sheet, Veil } from '../../ui/AskName'
import { Button } from '../../ui/controls'
import { Heading, Stack } from '../../ui/layout'

/** The generic kinds to start from; each arrives complete and is then corrected. */
export function AddGear({ close }: { close: () => void }) {
  const { data } = useKinds()
  const edit = useEdit()
  const navigate = useNavigate()
  const { tell } = useNotices()
  const [words, search] = useState('')
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean)
  const shown = (data?.kinds ?? []).filter((k) => {
    const all = [k.name, k.description, k.family, ...k.also].join(' ').toLowerCase()
    return wanted.every((w) => all.includes(w))
  })
  const families = [...new Set(shown.map((k) => k.family))]
  const add = async (kind: Kind) => {
    close()
    try {
      const gear = await answer(
        client.GET('/api/kinds/{kind}/new', {
          params: { path: { kind: kind.id }, query: { id: freshId() } },
        }),
      )
      void edit.add('gear', `Add ${gear.name}`, gear)
      navigate(`/own/${gear.id}`)
    } catch (e) {
      tell(e instanceof Problem ? e : new Problem(0, undefined))
    }
  }
  return (
    <Veil isOpen isDismissable onOpenChange={(open) => !open && close()}>
      <Modal>
        <Wide>
          <AriaHeading slot="title">Add gear</AriaHeading>
          <Stack>
            <Search value={words} onChange={search} autoFocus aria-label="Find a kind">
              <Input placeholder="delay, comp, head with loop…" />
            </Search>
            {shown.length === 0 && (
              <p>No kind is called that. Choose the nearest; everything can be changed.</p>
            )}
            {families.map((f) => (
              <div key={f}>
                <Heading as="h3">{f}</Heading>
                <Grid>
                  {shown
                    .filter((k) => k.family === f)
                    .map((k) => (
                      <Choice key={k.id} onPress={() => void add(k)}>
                        <EffectMark
                          effect={k.gear.kind === 'guitar' ? 'guitar' : (k.gear.blocks?.[0]?.effect ?? '')}
                        />
                        <span>
                          <b>{k.name}</b>
                          <small>{k.description}</small>
                        </span>
                      </Choice>
                    ))}
                </Grid>
              </div>
            ))}
          </Stack>
        </Wide>
      </Modal>
    </Veil>
  )
}

const Wide = styled(Sheet)`width: min(860px, 94vw);`
const Search = styled(SearchField)`input { width: 100%; }`
const Grid = styled.div`display: grid; grid-template-columns: repeat(auto-fill, minmax(240px, 1fr)); gap: 6px; margin-top: 6px;`
const Choice = styled(Button)`
  justify-content: flex-start; text-align: left; padding: 8px; gap: 10px;
  span { display: grid; } b { font-weight: 600; } small { font-size: 12px; color: var(--muted); }
  svg { flex: none; }
`
